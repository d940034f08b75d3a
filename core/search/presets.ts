/**
 * The inverse question: how far each joint must be set out of true so that the piece pulls true. Over-angles are found by
 * least squares on the forecast itself (Gauss-Newton with bounds, smallest angles that do it), then forecast again.
 */
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast } from '../forecast/forecast';
import { priorFactors, type ShopFactors } from '../factors/factors';
import { solveSmall } from '../linalg/dense';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { PlanDocument } from '../document/schema';
import { exceedance, featureCost, type SearchGoals } from './cost';
import { NOT_WHOLE, type PlanChange } from './levers';
import { Refusal } from '../refusal/refusal';

/** An over-angle beyond this is not set on thin sheet (own estimate), degrees. */
export const MOST_PRESET_DEG = 8;
/** What a protractor sets, degrees. */
const STEP_DEG = 0.1;
/** Weight of the angles' own size: a degree costs as much as missing a limit by this share, squared. */
const SMALL = 2e-3;
const ROUNDS = 6;

export interface PresetAdvice {
	features: { id: string; name: string }[];
	joints: { joint: string; name: string; fromDeg: number; toDeg: number }[];
	before: number[];
	/** by the quick method, forecast again with the angles as rounded */
	after: number[];
	/** what the linear solve expected of the same angles */
	expected: number[];
	final?: { before: number[]; after: number[]; words: string };
	words: string;
	change: PlanChange;
}

/** @throws RangeError where there is nothing to solve */
// eslint-disable-next-line complexity, max-lines-per-function -- one loop of corrections: its state is all of it
export function solvePresets(
	plan: PlanDocument,
	goals: SearchGoals,
	options: {
		factors?: ShopFactors;
		kernel?: KernelFactory;
		tell?: (phase: string, share: number) => void;
		stop?: () => boolean;
		final?: boolean;
	} = {}
): PresetAdvice {
	const factors = options.factors ?? priorFactors();
	const tell = options.tell ?? (() => {});
	const scales = scalesOf(factors.mean);
	const { features } = plan;
	if (!features.length) throw new Refusal('The plan names no feature that must come true: add features on the Job page.');
	const joints = plan.joints.filter((j) => !j.stock && (plan.runs.some((r) => r.joint === j.id) || plan.tacks.some((t) => t.joint === j.id)));
	if (!joints.length) throw new Refusal('No seam is tacked or welded yet: there is nothing to set out of true.');
	const cache = new ForecastCache(options.kernel);
	const withAngles = (deg: readonly number[]): PlanDocument => ({
		...plan,
		joints: plan.joints.map((j) => {
			const i = joints.indexOf(j);
			return i < 0 ? j : { ...j, presetDeg: deg[i] };
		})
	});
	const valuesAt = (deg: readonly number[]) => {
		const a = analyse(withAngles(deg), cache);
		return features.map((f) => a.featureAt(f, 'unclamped', scales));
	};
	const given = joints.map((j) => j.presetDeg);
	const before = valuesAt(given);
	const weight = features.map((f) => Math.sqrt(goals.features[f.id] ?? 1));
	const residual = (values: readonly number[]) => features.map((f, k) => weight[k] * exceedance(f, values[k]));
	const total = (deg: readonly number[], values: readonly number[]) =>
		residual(values).reduce((s, r) => s + r * r, 0) + SMALL * deg.reduce((s, d) => s + d * d, 0);
	let deg = [...given];
	let now = before;
	let slopes: number[][] = [];
	for (let round = 0; round < ROUNDS; round++) {
		if (options.stop?.()) break;
		// presets act by misfits alone: the slope is exact, but for form errors' kinks
		const h = 0.5;
		slopes = joints.map((_, i) => {
			tell('Trying each joint', (round + i / joints.length) / ROUNDS);
			const v = valuesAt(deg.map((d, k) => (k === i ? d + h : d)));
			return v.map((x, k) => (x - now[k]) / h);
		});
		const r = residual(now);
		const n = joints.length;
		const A = new Float64Array(n * n);
		const b = new Float64Array(n);
		const J = slopes.map((s) => s.map((x, k) => weight[k] * (exceedance(features[k], x) - exceedance(features[k], 0))));
		for (let i = 0; i < n; i++) {
			for (let j = 0; j < n; j++) A[i * n + j] = J[i].reduce((s, x, k) => s + x * J[j][k], 0) + (i === j ? SMALL : 0);
			b[i] = -J[i].reduce((s, x, k) => s + x * r[k], 0) - SMALL * deg[i];
		}
		const step = solveSmall(A, b);
		let better = false;
		for (let f = 1; f > 0.05; f /= 2) {
			const next = deg.map((d, i) => Math.max(-MOST_PRESET_DEG, Math.min(MOST_PRESET_DEG, d + f * step[i])));
			const v = valuesAt(next);
			if (total(next, v) < total(deg, now) * (1 - 1e-4)) {
				deg = next;
				now = v;
				better = true;
				break;
			}
		}
		if (!better) break;
	}
	const h = 0.5;
	slopes = joints.map((_, i) => {
		const [up, down] = [1, -1].map((f) => valuesAt(deg.map((d, k) => (k === i ? d + f * h : d))));
		return up.map((x, k) => (x - down[k]) / (2 * h));
	});
	const rounded = deg.map((d) => Math.round(d / STEP_DEG) * STEP_DEG).map((d) => (Math.abs(d) < STEP_DEG / 2 ? 0 : Number(d.toFixed(1))));
	const expected = now.map((v, k) => v + rounded.reduce((s, d, i) => s + (slopes[i]?.[k] ?? 0) * (d - deg[i]), 0));
	const after = valuesAt(rounded);
	const changed = joints.flatMap((j, i) => (rounded[i] === given[i] ? [] : [{ joint: j.id, name: j.name, fromDeg: given[i], toDeg: rounded[i] }]));
	const change: PlanChange = { presets: Object.fromEntries(changed.map((c) => [c.joint, c.toDeg])) };
	let final: PresetAdvice['final'];
	if (changed.length && options.final && !options.stop?.()) {
		tell('Final shape as planned', 0.9);
		const p = finalValues(forecast(plan, { factors, cache }), factors);
		tell('Final shape with the presets', 0.95);
		const q = finalValues(forecast(withAngles(rounded), { factors, cache }), factors);
		final = { before: p.values, after: q.values, words: [p.words, q.words].filter(Boolean).join(' ') };
	}
	tell('Done', 1);
	const gainOf = (p: readonly number[], q: readonly number[]) =>
		1 - featureCost(features, q, goals) / Math.max(1e-12, featureCost(features, p, goals));
	const gain = gainOf(before, after);
	const byFinal = final && gainOf(final.before, final.after);
	const finalWords =
		byFinal === undefined
			? ''
			: final!.words
				? ` ${NOT_WHOLE} ${final!.words}`
				: byFinal > 0
					? ` By the final shape, which knows waves and dishing, they come ${(100 * byFinal).toFixed(0)} % nearer.`
					: ' The final shape, which knows waves and dishing, does not bear this out: see its columns before you set anything over.';
	return {
		features: features.map((f) => ({ id: f.id, name: f.name })),
		joints: changed,
		before,
		after,
		expected,
		final,
		words: !changed.length
			? 'No over-angle would bring the features nearer their limits: what is off here is not an angle of a joint.'
			: `${changed.length === 1 ? 'One joint' : `${changed.length} joints`} set over before tacking: the features come ${(100 * gain).toFixed(0)} % nearer the middle of their limits (sum of squares). Set them with a shim, a wedge or an opened fold (see Fit-up), and try it on a coupon first.${finalWords}`,
		change
	};
}
