/**
 * The inverse question: how far joints must be set out of true so that the piece pulls true. Of the joints that can turn by themselves,
 * over-angles are found by least squares on the forecast itself, rounded to what a person sets, and forecast again.
 */
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast } from '../forecast/forecast';
import { priorFactors, type ShopFactors } from '../factors/factors';
import { solveSmall } from '../linalg/dense';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { PlanDocument } from '../document/schema';
import { MOST_PRESET_DEG, STEP_DEG } from '../weldout/preset';
import { hingesOf } from './hinges';
import { exceedance, featureCost, type SearchGoals } from './cost';
import { NOT_WHOLE, type PlanChange } from './levers';
import { Refusal } from '../refusal/refusal';

/** An angle tried to see what it does, degrees. */
const PROBE_DEG = 0.5;
/** Share of a feature's limit that an angle must move it by to count. */
const MATTERS = 0.1;
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

interface Solving {
	plan: PlanDocument;
	goals: SearchGoals;
	factors: ShopFactors;
	cache: ForecastCache;
	tell(phase: string, share: number): void;
	stop(): boolean;
}

/** @throws Refusal where there is nothing to solve */
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
	const stop = options.stop ?? (() => false);
	const { features } = plan;
	if (!features.length) throw new Refusal('The plan names no feature that must come true: add features on the Job page.');
	const used = (id: string) => plan.runs.some((r) => r.joint === id) || plan.tacks.some((t) => t.joint === id);
	if (!plan.joints.some((j) => !j.stock && used(j.id))) throw new Refusal('No seam is tacked or welded yet: there is nothing to set out of true.');
	const hinges = hingesOf(plan)
		.map(([first]) => first)
		.filter(used);
	const solving: Solving = { plan, goals, factors, cache: new ForecastCache(options.kernel), tell, stop };
	const before = valuesWith(solving, {});
	const solved = hinges.length ? setOver(solving, hinges, before) : { deg: {}, expected: before };
	const after = valuesWith(solving, solved.deg);
	const changed = plan.joints.flatMap((j) => {
		const to = solved.deg[j.id];
		return to === undefined || to === j.presetDeg ? [] : [{ joint: j.id, name: j.name, fromDeg: j.presetDeg, toDeg: to }];
	});
	const change: PlanChange = { presets: Object.fromEntries(changed.map((c) => [c.joint, c.toDeg])) };
	const final = changed.length && options.final && !stop() ? finalOf(solving, solved.deg) : undefined;
	tell('Done', 1);
	const gainOf = (p: readonly number[], q: readonly number[]) =>
		1 - featureCost(features, q, goals) / Math.max(1e-12, featureCost(features, p, goals));
	return {
		features: features.map((f) => ({ id: f.id, name: f.name })),
		joints: changed,
		before,
		after,
		expected: solved.expected,
		final,
		words: wordsOf(hinges.length, changed.length, gainOf(before, after), final && { gain: gainOf(final.before, final.after), notWhole: final.words }),
		change
	};
}

function wordsOf(hinges: number, changed: number, gain: number, final: { gain: number; notWhole: string } | undefined): string {
	if (!hinges)
		return 'No joint of this piece can be set over by itself: each face is held by more than one seam. Open or close a fold, or hold it down instead.';
	if (!changed)
		return 'No over-angle would bring the features nearer their limits by more than their bands: what is off here is not an angle of a joint, or not yet known well enough. A coupon of the joint tells.';
	const finalWords = !final
		? ''
		: final.notWhole
			? ` ${NOT_WHOLE} ${final.notWhole}`
			: final.gain > 0
				? ` By the final shape, which knows waves and dishing, they come ${(100 * final.gain).toFixed(0)} % nearer.`
				: ' The final shape, which knows waves and dishing, does not bear this out: see its columns before you set anything over.';
	return `${changed === 1 ? 'One joint' : `${changed} joints`} set over before tacking: the features come ${(100 * gain).toFixed(0)} % nearer the middle of their limits (sum of squares). Set ${changed === 1 ? 'it' : 'them'} with a shim, a wedge or an opened fold (see Fit-up), and try it on a coupon first.${finalWords}`;
}

/**
 * Over-angles of these joints alone, which must be able to turn (`hingesOf`): none where none would move a feature by more than its band.
 * @returns degrees by joint
 */
export const overAngles = (
	plan: PlanDocument,
	joints: readonly string[],
	goals: SearchGoals,
	{ factors, cache, stop }: Pick<Solving, 'factors' | 'cache' | 'stop'>
): Angles => {
	const solving: Solving = { plan, goals, factors, cache, stop, tell: () => {} };
	return joints.length ? setOver(solving, joints, valuesWith(solving, {})).deg : {};
};

export type Angles = Record<string, number>;
export const withAngles = (plan: PlanDocument, deg: Angles): PlanDocument => ({
	...plan,
	joints: plan.joints.map((j) => (deg[j.id] === undefined ? j : { ...j, presetDeg: deg[j.id] }))
});
const valuesWith = ({ plan, cache, factors }: Solving, deg: Angles): number[] => {
	const a = analyse(withAngles(plan, deg), cache);
	const scales = scalesOf(factors.mean);
	return plan.features.map((f) => a.featureAt(f, 'unclamped', scales));
};

function finalOf({ plan, factors, cache, tell }: Solving, deg: Angles): NonNullable<PresetAdvice['final']> {
	tell('Final shape as planned', 0.9);
	const p = finalValues(forecast(plan, { factors, cache }), factors);
	tell('Final shape with the presets', 0.95);
	const q = finalValues(forecast(withAngles(plan, deg), { factors, cache }), factors);
	return { before: p.values, after: q.values, words: [p.words, q.words].filter(Boolean).join(' ') };
}

/**
 * Least squares over the joints that can turn, rounded to what a person sets; a joint whose angle moves no feature by more than the
 * feature's own band is left out, and the rest solved again without it.
 */
function setOver(s: Solving, hinges: readonly string[], before: readonly number[]): { deg: Angles; expected: number[] } {
	const { plan, factors, cache } = s;
	const bands = forecast(plan, { factors, cache }).result.features.map((f) => (f.high - f.low) / 2);
	let open = [...hinges];
	for (;;) {
		const best = solve(s, open, before);
		const rounded = Object.fromEntries(open.map((id, i) => [id, Math.round(best.deg[i] / STEP_DEG) * STEP_DEG]));
		const isTold = (id: string, i: number) => {
			const change = rounded[id] - plan.joints.find((j) => j.id === id)!.presetDeg;
			const moves = best.slopes[i].map((slope) => Math.abs(slope * change));
			// a feature it hardly moves against its limit says nothing, however sure that is
			return change === 0 || moves.some((m, k) => m > bands[k] && m > MATTERS * plan.features[k].tolerance.upper);
		};
		const told = open.filter(isTold);
		if (told.length < open.length && !s.stop()) {
			open = told;
			if (open.length) continue;
			return { deg: {}, expected: [...before] };
		}
		return {
			deg: rounded,
			expected: best.values.map((v, k) => v + open.reduce((sum, id, i) => sum + best.slopes[i][k] * (rounded[id] - best.deg[i]), 0))
		};
	}
}

/** Gauss-Newton with bounds: the smallest angles that do it. */
function solve(s: Solving, joints: readonly string[], before: readonly number[]): { deg: number[]; values: number[]; slopes: number[][] } {
	const { plan, goals, tell, stop } = s;
	const { features } = plan;
	const valuesAt = (deg: readonly number[]) => valuesWith(s, Object.fromEntries(joints.map((id, i) => [id, deg[i]])));
	const weight = features.map((f) => Math.sqrt(goals.features[f.id] ?? 1));
	const residual = (values: readonly number[]) => features.map((f, k) => weight[k] * exceedance(f, values[k]));
	const total = (deg: readonly number[], values: readonly number[]) =>
		residual(values).reduce((sum, r) => sum + r * r, 0) + SMALL * deg.reduce((sum, d) => sum + d * d, 0);
	let deg = joints.map((id) => plan.joints.find((j) => j.id === id)!.presetDeg);
	let now = [...before];
	for (let round = 0; round < ROUNDS && !stop(); round++) {
		// presets act by misfits alone: the slope is exact, but for form errors' kinks
		const slopes = joints.map((_, i) => {
			tell('Trying each joint', (round + i / joints.length) / ROUNDS);
			const v = valuesAt(deg.map((d, k) => (k === i ? d + PROBE_DEG : d)));
			return v.map((x, k) => (x - now[k]) / PROBE_DEG);
		});
		const step = stepOf(features, weight, slopes, residual(now), deg);
		let better = false;
		for (let f = 1; f > 0.05 && !better; f /= 2) {
			const next = deg.map((d, i) => Math.max(-MOST_PRESET_DEG, Math.min(MOST_PRESET_DEG, d + f * step[i])));
			const v = valuesAt(next);
			better = total(next, v) < total(deg, now) * (1 - 1e-4);
			if (better) [deg, now] = [next, v];
		}
		if (!better) break;
	}
	const slopes = joints.map((_, i) => {
		const [up, down] = [1, -1].map((f) => valuesAt(deg.map((d, k) => (k === i ? d + f * PROBE_DEG : d))));
		return up.map((x, k) => (x - down[k]) / (2 * PROBE_DEG));
	});
	return { deg, values: now, slopes };
}

function stepOf(
	features: PlanDocument['features'],
	weight: readonly number[],
	slopes: readonly number[][],
	r: readonly number[],
	deg: readonly number[]
) {
	const n = slopes.length;
	const A = new Float64Array(n * n);
	const b = new Float64Array(n);
	const J = slopes.map((s) => s.map((x, k) => weight[k] * (exceedance(features[k], x) - exceedance(features[k], 0))));
	for (let i = 0; i < n; i++) {
		for (let j = 0; j < n; j++) A[i * n + j] = J[i].reduce((s, x, k) => s + x * J[j][k], 0) + (i === j ? SMALL : 0);
		b[i] = -J[i].reduce((s, x, k) => s + x * r[k], 0) - SMALL * deg[i];
	}
	return solveSmall(A, b);
}
