import type { Decision } from '$core/measure/decision';
import { unitOf } from '$core/features';
import { benchPlanOf } from '$lib/server/compute';
import { photographTitle, pieceInHand } from '$lib/server/piece';
import { standing } from '$core/weldout/logbook';
import { eventsOf, handOverOf, measurementsOf, signatureOf } from '$store/bench';
import { getDb } from '$store/database';
import { photographsOf } from '$store/photographs';

const NOT_BEGUN = {
	revision: null as number | null,
	signature: null as NonNullable<Awaited<ReturnType<typeof signatureOf>>> | null,
	missing: [] as string[],
	outside: [] as string[],
	unsure: [] as string[],
	decision: 'as-read' as Decision,
	problems: [],
	photographs: [],
	results: []
};

export const load = async ({ url, parent, depends }) => {
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
	const titles = new Map(steps.map((s) => [s.id, s.title]));
	return {
		piece,
		revision: revision ?? null,
		signature: signature ?? null,
		missing,
		outside,
		unsure,
		decision: plan.decision ?? 'as-read',
		problems: standing(events)
			.filter((e) => e.kind === 'step-problem')
			.map((e) => {
				const closure = events.find((c) => c.kind === 'problem-closed' && c.about === e.clientId);
				return {
					id: e.clientId,
					step: titles.get(e.step ?? '') ?? e.step,
					stepId: e.step ?? undefined,
					note: e.note,
					person: e.person,
					happenedAt: e.happenedAt,
					closure: closure ? { note: closure.note, person: closure.person, happenedAt: closure.happenedAt } : null
				};
			}),
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
