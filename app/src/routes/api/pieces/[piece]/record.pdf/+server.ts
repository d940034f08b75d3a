import { unitOf } from '$core/features';
import { MOMENT_WORDS, POSTURE_WORDS } from '$core/document/words';
import { instrumentWords } from '$core/registers/instruments';
import { formatLength } from '$core/units/length';
import { dataWords } from '$core/weldout/happenings';
import { answer, auditOf, idOf, personOf } from '$lib/server/api';
import { whatItGave } from '$core/corrections/given';
import { drawingSvg, pointing } from '$core/draw/svg';
import { LOOKED } from '$core/weldout/happenings';
import { issuedAndRun } from '$core/weldout/issuedAndRun';
import { standing, whereItStands } from '$core/weldout/logbook';
import { factorsOf } from '$lib/server/learning';
import type { ScanMapsTask } from '$lib/server/scanMaps';
import { heightMaps } from '$lib/server/heightMaps';
import { limitMark } from '$lib/server/limitMark';
import { benchPlanOf, pathsOf, scanMapsOf, sheetInThread } from '$lib/server/compute';
import { photographTitle } from '$lib/server/piece';
import { asPdf, revisionWords } from '$lib/server/sheet';
import { writeAudit } from '$store/audit';
import { eventsOf, handOverOf, measurementsOf, revisionOfPiece, signatureOf, tappedAt, type BenchEvent } from '$store/bench';
import { getDb } from '$store/database';
import { getJob, getPiece, getRevision, StateError } from '$store/jobs';
import { photographsOf, pictureOf } from '$store/photographs';
import { scansOf, shapeOf } from '$store/scans';

/** Of places on one small picture. */
const MOST_NUMBERS = 6;

/** What a line of the log says of its step. */
const WHAT: Partial<Record<BenchEvent['kind'], string>> = {
	started: 'started',
	'step-done': 'done',
	'step-problem': 'PROBLEM',
	'wait-started': 'wait begun',
	paused: 'paused',
	resumed: 'gone on',
	finished: 'finished',
	note: 'note',
	'problem-closed': 'problem closed',
	undone: 'taken back',
	'step-skipped': 'left for later',
	'step-taken': 'taken next',
	laid: 'part laid',
	happened: 'otherwise',
	'hold-signed': 'SIGNED',
	'hold-released': 'hold RELEASED',
	replanned: 'planned on'
};

export const GET = (event) =>
	answer(async () => {
		const db = getDb();
		const piece = await getPiece(db, idOf(event.params.piece, 'This piece'));
		const revisionId = await revisionOfPiece(db, piece.id);
		if (!revisionId) throw new StateError('piece', `Piece ${piece.serial} has not been started: there is nothing to record`);
		const revision = await getRevision(db, revisionId);
		const [{ steps, pictures, features: places }, job, readings, events, signature, photographs] = await Promise.all([
			benchPlanOf(revision),
			getJob(db, piece.jobId),
			measurementsOf(db, piece.id, true),
			eventsOf(db, piece.id),
			signatureOf(db, piece.id),
			photographsOf(db, piece.id)
		]);
		const plan = revision.document;
		const { judged, missing } = handOverOf({ plan, steps }, events, readings);
		const titles = new Map(steps.map((s) => [s.id, s.title]));
		const title = (id: string | null) => titles.get(id ?? '') ?? id ?? 'The piece';
		const features = new Map(plan.features.map((f) => [f.id, f]));
		const shown = (value: number, unit: string) => `${value.toFixed(2)}${unit === '°' ? '°' : ' mm'}`;
		// a tap sent under somebody else's session names both
		const gone = new Set(events.filter((e) => e.kind === 'undone').map((e) => e.about));
		const mm = (v: number, digits = 1) => formatLength(v, personOf(event).units, digits);
		const wordsOf = (e: BenchEvent) => [dataWords(e.data!, plan, mm), e.note?.replace(/\.$/, '')].filter(Boolean).join(': ');
		const who = (e: BenchEvent) => (e.sentBy ? `${e.person} (sent by ${e.sentBy})` : e.person);
		const isShort = event.url.searchParams.has('short');
		const factors = await factorsOf(plan);
		const paths = await pathsOf(revision, factors);
		const lines = events.map((e) => ({ ...e, at: tappedAt(e) }));
		const stands = standing(lines);
		const head = {
			title: isShort ? 'Record, one page' : 'Record',
			job: `${job.number} ${job.name}`,
			revision: revisionWords(revision),
			state: revision.state,
			printedBy: personOf(event).name
		};
		const data = {
			serial: piece.serial,
			customer: job.customer,
			results: plan.features.map((f) => {
				const j = judged.find((x) => x.feature === f.id)!;
				const known = paths.features[f.id];
				const band = known && known.verdict !== 'final shape' ? known.moments.unclamped : undefined;
				return {
					name: f.name,
					forecast: band ? `${band.predicted.toFixed(2)} (${band.low.toFixed(2)} to ${band.high.toFixed(2)})` : 'by the final shape only',
					mark: limitMark(f.tolerance, band, j.value === undefined ? undefined : { value: j.value, uncertainty90: j.uncertainty90! }),
					limit: `${f.tolerance.lower === undefined ? 'at most' : '±'} ${f.tolerance.upper}${unitOf(f) === '°' ? '°' : ' mm'}`,
					value: j.value === undefined ? j.missing! : `${shown(j.value, unitOf(f))} ± ${shown(j.uncertainty90!, unitOf(f))}`,
					verdict:
						j.said === undefined
							? ''
							: j.said === 'in doubt'
								? `in doubt${j.inside ? ', inside as read' : ''}`
								: j.said === 'inside'
									? 'inside'
									: 'OUTSIDE'
				};
			}),
			pictures: isShort
				? []
				: plan.features.flatMap((f) => {
						const spot = places[f.id];
						if (!spot) return [];
						// many numbers stand on one another at this size
						const labels = spot.labels.filter(Boolean).length > MOST_NUMBERS ? spot.labels.map(() => '') : spot.labels;
						return [{ name: f.name, svg: drawingSvg(pictures[spot.picture], pointing({ ...spot, labels }), 160, 110) }];
					}),
			maps: isShort ? [] : heightMaps(plan, readings, (v) => formatLength(v, personOf(event).units, 2)),
			scans: isShort ? undefined : await scanPictures(piece.id, { plan, factors, unit: personOf(event).units }),
			beside: issuedAndRun(plan, whereItStands(steps, lines), mm),
			corrections: whatItGave(
				lines,
				readings.filter((r) => !r.withdrawnAt).map((r) => ({ feature: r.feature, moment: r.moment, value: r.value, at: r.measuredAt.getTime() }))
			).map((g) => {
				const e = stands.find((x) => x.clientId === g.clientId)!;
				const f = g.feature ? features.get(g.feature) : undefined;
				const unit = f ? unitOf(f) : 'mm';
				return {
					words: wordsOf(e),
					gave:
						g.before === undefined || g.after === undefined
							? 'Not read both before and after.'
							: `${shown(g.before, unit)} before, ${shown(g.after, unit)} after.`,
					person: who(e),
					at: e.happenedAt
				};
			}),
			looked: stands
				.filter((e) => e.kind === 'happened' && e.data?.what !== undefined && LOOKED.includes(e.data.what))
				.map((e) => ({ words: wordsOf(e), person: who(e), at: e.happenedAt })),
			isShort,
			log: events
				.filter((e) => WHAT[e.kind])
				.map((e) => ({
					step: [
						title(e.step ?? events.find((x) => x.clientId === e.about)?.step ?? null),
						e.data ? dataWords(e.data, plan, mm) : '',
						e.kind === 'step-problem' ? '' : e.note
					]
						.filter(Boolean)
						.join(': '),
					what: `${WHAT[e.kind]!}${gone.has(e.clientId) ? ', taken back' : ''}`,
					person: who(e),
					at: e.happenedAt
				})),
			problems: events
				.filter((e) => e.kind === 'step-problem' && !gone.has(e.clientId))
				.map((e) => {
					const c = events.find((x) => x.kind === 'problem-closed' && x.about === e.clientId);
					return {
						step: title(e.step),
						note: e.note ?? '',
						person: who(e),
						at: e.happenedAt,
						closure: c
							? { note: [c.data ? dataWords(c.data, plan, mm) : '', c.note ?? ''].filter(Boolean).join(': '), person: who(c), at: c.happenedAt }
							: undefined
					};
				}),
			readings: readings.map((r) => ({
				feature: features.get(r.feature)?.name ?? r.feature,
				moment: MOMENT_WORDS[r.moment],
				value: shown(r.value, r.unit),
				arithmetic: r.arithmetic,
				instrument: instrumentWords(r.instrument, r.instrumentDueOn, r.measuredAt),
				person: r.person,
				at: r.measuredAt,
				withdrawn: r.withdrawnWhy ?? undefined
			})),
			photographs: await Promise.all(
				(isShort ? [] : photographs).map(async (p) => ({
					title: photographTitle(p, events, titles),
					note: p.note ?? '',
					person: p.sentBy ? `${p.person} (sent by ${p.sentBy})` : p.person,
					at: p.takenAt,
					jpeg: (await pictureOf(db, piece.id, p.clientId, 'picture')).toString('base64')
				}))
			),
			signature,
			missing,
			heats: plan.parts.map((p) => `${p.name}: ${p.material}, ${p.thicknessMm} mm${p.heatNumber ? `, heat ${p.heatNumber}` : ''}`)
		};
		const pdf = await sheetInThread({ sheet: 'record', head, data });
		await writeAudit(db, 'exported', { ...auditOf(event), about: `record of ${piece.serial}` });
		return asPdf(pdf, `record-${piece.serial}${isShort ? '-short' : ''}`);
	});

/** Each moment as it was last scanned. */
async function scanPictures(piece: string, of: Pick<ScanMapsTask, 'plan' | 'factors' | 'unit'>) {
	const kept = await scansOf(getDb(), piece);
	const last = kept.filter((s, i) => kept.findLastIndex((x) => x.moment === s.moment) === i);
	if (!last.length) return undefined;
	const scans = await Promise.all(
		last.map(async (s) => ({
			words: `${MOMENT_WORDS[s.moment]}, ${POSTURE_WORDS[s.posture]}; ${s.person}, ${s.measuredAt.toISOString().slice(0, 10)}; ${s.instrument}: ${s.file}, ${s.points} points, scatter ${formatLength(s.scatterMm, of.unit, 2)}${s.isFromDatum ? '; seen from the datum points' : ''}`,
			isFromDatum: s.isFromDatum,
			bytes: new Uint8Array(await shapeOf(getDb(), piece, s.clientId))
		}))
	);
	return scanMapsOf({ ...of, scans });
}
