import type { Decision } from '$core/measure/decision';
import type { PlanDocument } from '$core/document/schema';
import { unitOf } from '$core/features';
import { formatLength } from '$core/units/length';
import { dataWords, LOOKED } from '$core/weldout/happenings';
import type { ShopAtBench } from '$lib/bench/view';
import { shopAtBench } from '$lib/server/shopAtBench';
import { inUse } from '$store/registers';
import { arcsOf, coolAtOf } from '$lib/server/cooled';
import { benchPlanOf } from '$lib/server/compute';
import { photographTitle, pieceInHand } from '$lib/server/piece';
import { reworkMinutes } from '$core/corrections/summary';
import { standing } from '$core/weldout/logbook';
import { readBeforeCold } from '$core/weldout/handOver';
import { eventsOf, handOverOf, measurementsOf, signatureOf } from '$store/bench';
import { getDb } from '$store/database';
import { photographsOf } from '$store/photographs';

const NOT_BEGUN = {
	revision: null as number | null,
	signature: null as NonNullable<Awaited<ReturnType<typeof signatureOf>>> | null,
	missing: [] as string[],
	outside: [] as string[],
	unsure: [] as string[],
	readWarm: undefined as Promise<string[]> | undefined,
	decision: 'as-read' as Decision,
	problems: [],
	photographs: [],
	rework: { minutes: 0, cost: null as number | null },
	looked: [] as { id: string; words: string; note: string | null; person: string; happenedAt: Date }[],
	view: null as null | { plan: PlanDocument; shop: ShopAtBench },
	results: []
};

/** What has been put right so far took this long, and cost this much where the quote says what an hour costs. */
function reworkOf(lines: Parameters<typeof reworkMinutes>[0], plan: PlanDocument): { minutes: number; cost: number | null } {
	const minutes = reworkMinutes(lines);
	return { minutes, cost: plan.quote?.hourRate === undefined ? null : (minutes / 60) * plan.quote.hourRate };
}

export const load = async ({ url, parent, depends, locals }) => {
	depends('sarta:bench');
	const { pieces } = await parent();
	const { piece, plan, revision, stored } = await pieceInHand(pieces, url.searchParams.get('piece'));
	const db = getDb();
	if (!piece || !plan || !stored) return { piece: piece ?? null, ...NOT_BEGUN };
	const [{ steps }, events, readings, signature, photographs] = await Promise.all([
		benchPlanOf(stored),
		eventsOf(db, piece.id),
		measurementsOf(db, piece.id),
		signatureOf(db, piece.id),
		photographsOf(db, piece.id)
	]);
	const { judged, missing, outside, unsure } = handOverOf({ plan, steps }, events, readings);
	const lastArcAt = Math.max(...arcsOf(events).map((arc) => arc.at));
	const namesOf = (ids: readonly string[]) => ids.map((id) => plan.features.find((f) => f.id === id)!.name);
	const titles = new Map(steps.map((s) => [s.id, s.title]));
	const mm = (v: number, digits = 1) => formatLength(v, locals.person?.units ?? 'mm', digits);
	return {
		piece,
		revision: revision ?? null,
		signature: signature ?? null,
		missing,
		outside,
		unsure,
		// the page does not wait for it
		readWarm: signature
			? undefined
			: coolAtOf(piece.id, { plan, steps }, events).then((coolAt) =>
					coolAt === undefined ? [] : namesOf(readBeforeCold(judged, lastArcAt, coolAt))
				),
		decision: plan.decision ?? 'as-read',
		problems: standing(events)
			.filter((e) => e.kind === 'step-problem')
			.map((e) => {
				const closure = events.find((c) => c.kind === 'problem-closed' && c.about === e.clientId);
				return {
					id: e.clientId,
					step: titles.get(e.step ?? '') ?? e.step ?? 'Non-conformance',
					stepId: e.step ?? undefined,
					note: e.note,
					person: e.person,
					happenedAt: e.happenedAt,
					closure: closure
						? {
								note: closure.note,
								person: closure.person,
								happenedAt: closure.happenedAt,
								words: closure.data ? dataWords(closure.data, plan, mm) : ''
							}
						: null
				};
			}),
		rework: reworkOf(standing(events), plan),
		looked: standing(events).flatMap((e) =>
			e.kind === 'happened' && e.data?.what && (LOOKED.includes(e.data.what) || e.data.what === 'corrected')
				? [{ id: e.clientId, words: dataWords(e.data, plan, mm), note: e.note, person: e.person, happenedAt: e.happenedAt }]
				: []
		),
		// plain objects: a plan is made of classes
		view: { plan: JSON.parse(JSON.stringify(plan)) as typeof plan, shop: shopAtBench(await inUse(db)) },
		photographs: photographs.map((p) => ({ ...p, title: photographTitle(p, events, titles) })),
		results: plan.features.map((f) => {
			const j = judged.find((x) => x.feature === f.id)!;
			return {
				id: f.id,
				name: f.name,
				tolerance: { ...f.tolerance },
				unit: unitOf(f),
				value: j.value,
				moment: j.moment,
				uncertainty90: j.uncertainty90,
				said: j.said,
				ok: j.inside,
				missing: j.missing
			};
		})
	};
};
