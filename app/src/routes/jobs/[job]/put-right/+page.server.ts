import { whatItGave } from '$core/corrections/given';
import { sharesOf } from '$core/corrections/share';
import { unitOf } from '$core/features';
import { benchPlanOf, putRightInThread } from '$lib/server/compute';
import { factorsOf } from '$lib/server/learning';
import { pieceInHand } from '$lib/server/piece';
import { shopAtBench } from '$lib/server/shopAtBench';
import { eventsOf, handOverOf, measurementsOf, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { correctionsTried } from '$store/logbook';
import { inUse } from '$store/registers';

export const load = async ({ url, parent, depends }) => {
	depends('sarta:bench');
	const { pieces } = await parent();
	const { piece, plan, stored } = await pieceInHand(pieces, url.searchParams.get('piece'));
	const db = getDb();
	if (!piece || !plan || !stored) return { piece: piece ?? null, features: [], given: [], shares: [], view: null, ways: undefined };
	const [{ steps }, events, readings] = await Promise.all([benchPlanOf(stored), eventsOf(db, piece.id), measurementsOf(db, piece.id)]);
	const { judged } = handOverOf({ plan, steps }, events, readings);
	const read = judged.flatMap((j) => (j.value === undefined ? [] : [{ feature: j.feature, value: j.value, uncertainty90: j.uncertainty90! }]));
	const lines = events.map((e) => ({ ...e, at: tappedAt(e) }));
	return {
		piece,
		features: plan.features.map((f) => {
			const j = judged.find((x) => x.feature === f.id)!;
			return { id: f.id, name: f.name, unit: unitOf(f), tolerance: { ...f.tolerance }, said: j.said, value: j.value, missing: j.missing };
		}),
		shares: [...sharesOf(await correctionsTried(db))],
		joints: plan.joints.map(({ id, name }) => ({ id, name })),
		given: whatItGave(
			lines,
			readings.map((r) => ({ ...r, at: r.measuredAt.getTime() }))
		),
		// plain objects: a plan is made of classes
		view: { plan: JSON.parse(JSON.stringify(plan)) as typeof plan, shop: shopAtBench(await inUse(db)) },
		// the page does not wait for the model
		ways: read.length ? factorsOf(plan).then((factors) => putRightInThread(plan, factors, read)) : undefined
	};
};
