import { unitOf } from '$core/features';
import { answer, idOf, personOf } from '$lib/server/api';
import { recordSheet } from '$lib/server/pdf';
import { asPdf } from '$lib/server/sheet';
import { eventsOf, measurementsOf, revisionOfPiece, signatureOf } from '$store/bench';
import { getDb } from '$store/database';
import { getJob, getPiece, getRevision, StateError } from '$store/jobs';

export const GET = (event) =>
	answer(async () => {
		const db = getDb();
		const piece = await getPiece(db, idOf(event.params.piece, 'This piece'));
		const revisionId = await revisionOfPiece(db, piece.id);
		if (!revisionId) throw new StateError('piece', `Piece ${piece.serial} has not been started: there is nothing to record`);
		const [revision, job, readings, events, signature] = await Promise.all([
			getRevision(db, revisionId),
			getJob(db, piece.jobId),
			measurementsOf(db, piece.id),
			eventsOf(db, piece.id),
			signatureOf(db, piece.id)
		]);
		const plan = revision.document;
		const results = plan.features.map((f) => {
			const own = readings.filter((r) => r.feature === f.id);
			const last = own.filter((r) => r.moment === 'unclamped').pop() ?? own.filter((r) => r.moment === 'cold').pop();
			const unit = unitOf(f) === '°' ? '°' : ' mm';
			const inside = last && last.value <= f.tolerance.upper && last.value >= (f.tolerance.lower ?? -Infinity);
			return {
				name: f.name,
				limit: `${f.tolerance.lower === undefined ? 'at most' : '±'} ${f.tolerance.upper}${unit}`,
				value: last ? `${last.value.toFixed(2)}${unit}` : 'not measured',
				verdict: last ? (inside ? 'inside' : 'OUTSIDE') : ''
			};
		});
		const parts = plan.parts.map((p) => `${p.name}: ${p.material}, ${p.thicknessMm} mm${p.heatNumber ? `, heat ${p.heatNumber}` : ''}`);
		const pdf = await recordSheet(
			{ title: 'Record', job: `${job.number} ${job.name}`, revision: revision.revision, state: revision.state, printedBy: personOf(event).name },
			{
				serial: piece.serial,
				customer: job.customer,
				results,
				problems: events.filter((e) => e.kind === 'step-problem').map((e) => `${e.note ?? ''} (${e.person})`),
				signature,
				heats: parts
			}
		);
		return asPdf(pdf, `record-${piece.serial}`);
	});
