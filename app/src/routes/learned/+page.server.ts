import { FACTOR_METHOD } from '$core/factors/factors';
import { covered, driftOf, summaries } from '$core/learn/honest';
import type { Context } from '$core/learn/context';
import { shopInThread } from '$lib/server/compute';
import { getDb } from '$store/database';
import { evidenceInForce, lessonHistory } from '$store/lessons';

const distinct = (list: readonly Context[]) => [...new Map(list.map((c) => [JSON.stringify(c), c])).values()];

export const load = async () => {
	const db = getDb();
	const [{ evidence, mark }, history] = await Promise.all([evidenceInForce(db), lessonHistory(db)]);
	const contexts = distinct(evidence.map((e) => e.context));
	const shop = evidence.length ? await shopInThread(mark, evidence, contexts) : undefined;
	return {
		contexts: contexts.map((context, i) => ({ context, factors: shop!.asked[i] })),
		rows:
			shop?.rows.map((r) => ({ kind: r.kind, unit: r.unit, label: r.label, foretold: r.alone, measured: r.measured, isOutlier: r.isOutlier })) ?? [],
		kinds: shop ? summaries(shop) : [],
		covered: shop && covered(shop),
		drift: shop && driftOf(shop),
		lessons: history.map(({ context, factors, readings, method, ...l }) => ({
			...l,
			context,
			readings: readings.length,
			pull: Math.exp(factors.mean[0] + factors.mean[1]),
			shrinkage: Math.exp(factors.mean[0] + factors.mean[2]),
			angle: Math.exp(factors.mean[0] + factors.mean[3]),
			isSetAside: method !== FACTOR_METHOD
		}))
	};
};
