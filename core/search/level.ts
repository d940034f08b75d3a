/**
 * What the linear, condensed piece says of a feature, brought to what the final shape says of it: through the value of one
 * order, and as the final shapes of several orders go with what the search knows of each.
 */
import { featureKind } from '../features';
import type { Analysis } from '../forecast/analysis';
import type { AnyFeature, PlanDocument } from '../document/schema';

/** What the search knows of a feature under an order. */
export interface Seen {
	/** value by the linear method, with the heat of earlier runs */
	linear: number;
	/** mean pull of the seams that act on it, N: what makes a panel dish */
	pull: number;
}

/** Change of the final value with either. */
export interface Fit {
	linear: number;
	pull: number;
}
export type Level = (s: Seen) => number;

/** Share of the final values' variance that a straight line must explain to be followed. */
const EXPLAINED = 0.5;
/** Orders that a fit needs at least. */
const ENOUGH = 4;

/** @param at what was seen of the order that came out at `final` */
export function levelOf(feature: Pick<AnyFeature, 'kind'>, at: Seen, final: number, fit?: Fit): Level {
	const isForm = !featureKind(feature).isSigned;
	// a form error that comes out better is scaled, so that it stays above nothing
	if (!fit) return isForm && final < at.linear ? (s) => (s.linear * final) / at.linear : (s) => s.linear + final - at.linear;
	const line = (s: Seen) => final + fit.linear * (s.linear - at.linear) + fit.pull * (s.pull - at.pull);
	// a form error has no sign: what the line would put below nothing is nothing
	return isForm ? (s) => Math.max(0, line(s)) : line;
}

/** Least squares of the final values over what explains them better, the linear value or the pull. @returns undefined where neither rises with them */
export function fitOf(points: readonly (Seen & { final: number })[]): Fit | undefined {
	const [byLinear, byPull] = (['linear', 'pull'] as const).map((by) => lineOf(points.map((p) => [p[by], p.final])));
	if (!byLinear && !byPull) return undefined;
	return (byLinear?.explained ?? 0) >= (byPull?.explained ?? 0) ? { linear: byLinear!.slope, pull: 0 } : { linear: 0, pull: byPull!.slope };
}

/** A rising straight line and the share of the variance it explains, if it explains enough. */
function lineOf(points: readonly (readonly [number, number])[]): { slope: number; explained: number } | undefined {
	const n = points.length;
	if (n < ENOUGH) return undefined;
	const [mx, my] = [0, 1].map((d) => points.reduce((s, p) => s + p[d], 0) / n);
	let [xx, xy, yy] = [0, 0, 0];
	for (const [x, y] of points) {
		xx += (x - mx) ** 2;
		xy += (x - mx) * (y - my);
		yy += (y - my) ** 2;
	}
	if (!(xx > 0) || !(yy > 0) || !(xy > 0)) return undefined;
	const explained = xy ** 2 / (xx * yy);
	return explained < EXPLAINED ? undefined : { slope: xy / xx, explained };
}

/** By feature and run: what the run's tendon force counts for in the mean pull, by its length. Features of one part count that part's seams, others all. */
export function pullWeights(plan: PlanDocument, responses: Analysis['responses']): Float64Array[] {
	const forceOf = new Map(responses.flatMap((r) => [...r.runs.keys()].map((run) => [run, r.response.tendonForceN] as const)));
	return plan.features.map((f) => {
		const own = plan.runs.map((r) => {
			if (!('part' in f)) return true;
			const j = plan.joints.find((x) => x.id === r.joint)!;
			return j.a.part === f.part || j.b.part === f.part;
		});
		const acts = own.some(Boolean) ? own : own.map(() => true);
		const lengths = plan.runs.map((r, i) => (acts[i] ? Math.abs(r.toMm - r.fromMm) : 0));
		const total = lengths.reduce((s, l) => s + l, 0);
		return Float64Array.from(plan.runs, (r, i) => (total > 0 ? (lengths[i] / total) * (forceOf.get(r.id) ?? 0) : 0));
	});
}

/** What a forecast with the heat of earlier runs has seen of each feature. */
export function seenIn(warm: Analysis, scales: readonly number[]): Seen[] {
	const factor = new Map(warm.responses.flatMap((r) => [...r.runs]));
	const weights = pullWeights(warm.plan, warm.responses);
	return warm.plan.features.map((f, k) => ({
		linear: warm.featureAt(f, 'unclamped', scales),
		pull: warm.plan.runs.reduce((s, r, i) => s + weights[k][i] * (factor.get(r.id) ?? 1), 0)
	}));
}
