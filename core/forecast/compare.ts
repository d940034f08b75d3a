/**
 * Two plans side by side by the quick method: what one gains over the other, with the band of the difference. Both take the
 * same draws of the shop's factors, so that errors they share cancel (a paired difference).
 */
import { priorFactors, type ShopFactors } from '../factors/factors';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { analyse, scalesOf, type Analysis, type ForecastCache } from './analysis';
import { bucklingMargins } from './buckling';
import { unitOf } from '../features';
import { draws, percentile, seamForces, type Band, type Draw } from './forecast';
import { formParts } from './modelForm';

export interface FeatureDifference {
	id: string;
	name: string;
	unit: 'mm' | '°';
	now: number;
	then: number;
	/** then less now, with its own 90 % band */
	difference: Band;
}

export interface Comparison {
	features: FeatureDifference[];
	/** mean of the seams' tendon forces, N: what there was and what there would be */
	force: { now: number; then: number };
	/** by the plate formula: times past its limit, for every panel that is near it in either plan */
	panels: { label: string; now?: number; then?: number }[];
}

/** @param warm with the heat that earlier runs have left in the forces: slower, and needed where only the order differs @returns features that both plans have, by id */
export function comparePlans(
	now: PlanDocument,
	then: PlanDocument,
	factors: ShopFactors = priorFactors(),
	cache: { now: ForecastCache; then: ForecastCache },
	warm = false
): Comparison {
	const [p, q] = [analyse(now, cache.now, { warm }), analyse(then, cache.then, { warm })];
	const ids = [...new Set([...p.mesh.seams, ...q.mesh.seams].map((s) => s.joint.id))];
	const list = draws(factors, ids.length);
	// the same seam scatters alike in both plans, wherever it stands in their lists
	const extras = (a: Analysis) =>
		a.mesh.seams.flatMap((s, k) => {
			const runs = [...a.staged.added].filter(([owner]) => a.staged.seamOfRun.get(owner) === k).map(([, v]) => v);
			if (!runs.length) return [];
			const sum = runs[0].map((first, action) => Float64Array.from(first, (_, i) => runs.reduce((t, v) => t + v[action][i], 0)));
			const draw = ids.indexOf(s.joint.id);
			return [{ sum, more: (d: Draw) => d.seams[draw] - 1 }];
		});
	// the same model is wrong in both
	const all = (a: Analysis) => [...extras(a), ...formParts(a).map((f) => ({ sum: f.added, more: (d: Draw) => f.more(d.forms[f.form]) }))];
	const [ep, eq] = [all(p), all(q)];
	const valueOf = (a: Analysis, extra: ReturnType<typeof all>, feature: AnyFeature) => {
		const value = a.sampler(
			feature,
			'unclamped',
			extra.map((x) => x.sum)
		);
		return (d: (typeof list)[number]) =>
			value(
				scalesOf(d.log, d.placing, d.sliding),
				extra.map((x) => x.more(d))
			);
	};
	const mean = scalesOf(factors.mean);
	const force = (a: Analysis) => a.responses.reduce((s, r) => s + r.response.tendonForceN, 0) / Math.max(1, a.responses.length);
	const margins = (a: Analysis) => bucklingMargins(a.plan, a.mesh, a.sheets, seamForces(a, mean[0]));
	const [mp, mq] = [margins(p), margins(q)];
	const labels = [...new Set([...mp, ...mq].map((m) => m.label))];
	return {
		panels: labels.map((label) => ({ label, now: mp.find((m) => m.label === label)?.ratio, then: mq.find((m) => m.label === label)?.ratio })),
		force: { now: force(p), then: force(q) },
		features: now.features
			.filter((f) => then.features.some((g) => g.id === f.id && g.kind === f.kind))
			.map((f) => {
				const a = p.featureAt(f, 'unclamped', mean);
				const same = then.features.find((g) => g.id === f.id)!;
				const b = q.featureAt(same, 'unclamped', mean);
				const [at, was] = [valueOf(q, eq, same), valueOf(p, ep, f)];
				const spread = list.map((d) => at(d) - was(d)).sort((x, y) => x - y);
				const predicted = b - a;
				return {
					id: f.id,
					name: f.name,
					unit: unitOf(f),
					now: a,
					then: b,
					difference: { predicted, low: Math.min(predicted, percentile(spread, 0.05)), high: Math.max(predicted, percentile(spread, 0.95)) }
				};
			})
	};
}
