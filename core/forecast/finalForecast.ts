/**
 * The second depth behind the door: the quick forecast's staging, then one non-linear solution of the joined, released
 * piece. Bands from a linearisation at the shape found, checked by full re-solutions; both branches where there are two.
 */
import { add, cross, distance, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { moved as movedState, type State } from '../equilibrium/state';
import { FACTOR_NAMES, priorFactors, cholesky, type ShopFactors } from '../learn/factors';
import { findMaterial } from '../materials/grades';
import type { AnyFeature } from '../plan/schema';
import { nodeAt } from '../shell/model';
import { ACTIONS } from '../staging/stage';
import { FinalShape, laidOf, type Laid } from '../staging/finalShape';
import { scalesOf, type Analysis } from './analysis';
import type { PanelMargin } from './buckling';
import { evaluateMoved, pointsOf, verdictOf } from './features';
import { ECCENTRICITY_SPREAD, SEAM_SCATTER, type FeatureForecast, type Forecast, type QuickForecast } from './forecast';
import { panelNames } from './panels';

/** 5th and 95th percentile of a normal distribution, in standard deviations. */
const Z90 = 1.6449;
/** A gap that was not measured is known to about this, mm (own estimate), and shrinks by 0.10 of itself (Blodgett) */
const GAP_SIGMA_MM = 0.15;
/** Two shapes that differ by less than this share of the thickness are one. */
const SAME_SHAPE = 0.1;
/** Buckling factors looked for. */
const MODES = 8;

export const FINAL_METHOD = {
	name: 'Final shape',
	words:
		'The quick staging, then one non-linear solution of the joined, released piece under its weight, in the posture stated. It knows waves, dishing and which way a panel goes; it does not know what the hot metal does to a gap ahead of the arc, and takes the sheet as flat before welding.'
};

export interface FinalOptions {
	factors?: ShopFactors;
	progress?: (share: number) => void;
	clock?: () => number;
}

export interface FinalForecast {
	result: Forecast;
	/** displacement of the final shape, 3 per node of the quick forecast's drawing; and of the other branch if there is one */
	shape: Float32Array;
	other?: Float32Array;
}

export function finalForecast(quick: QuickForecast, options: FinalOptions = {}): FinalForecast {
	const clock = options.clock ?? (() => 0);
	const progress = options.progress ?? (() => {});
	const factors = options.factors ?? priorFactors();
	const { analysis: a } = quick;
	const { plan } = a;
	const t0 = clock();
	const scales = scalesOf(factors.mean);
	const densities = plan.parts.map((p) => findMaterial(p.material, plan.materials).density);
	const build = (posture = plan.posture) => new FinalShape(plan, a.mesh, a.sheets, densities, a.condensed, a.staged, posture);
	const model = build();
	const last = a.staged.marks[a.staged.marks.length - 1];
	const laid = laidOf(last, scales);

	// margins of the joined piece: the welds' pull against the lowest ways to buckle
	const held = plan.posture === 'three-points' ? model : build('three-points');
	const modes = held.modes(laid, MODES);
	progress(0.2);
	const main = model.solve(laid, { progress: (s) => progress(0.2 + 0.3 * s) });
	const warnings = [...quick.result.warnings];
	if (!main.converged) warnings.unshift(`Final shape: ${main.words} The values shown are those of that share of the pull.`);
	const lowest = modes.find((m) => m.factor > 0)?.factor;
	// where a panel is past its limit it may also go the other way: start there, with the eccentric pull turned round, and let go
	let other: State | undefined;
	if (main.converged && lowest !== undefined && lowest < 1) {
		const turned = model.solve(laid, { eccentricity: -1, progress: (s) => progress(0.5 + 0.2 * s) });
		if (turned.converged) {
			const let_go = model.solve(laid, { from: turned.state });
			if (let_go.converged && largestDifference(let_go.state, main.state, a.mesh.nodeCount) > SAME_SHAPE * Math.min(...a.sheets.map((s) => s.thickness)))
				other = let_go.state;
		}
	}
	progress(0.75);

	const read = reader(a);
	const values = plan.features.map((f) => read(f, main.state));
	const otherValues = other ? plan.features.map((f) => read(f, other!)) : undefined;

	// sensitivities at the shape found
	const { system } = model;
	model.lay(laid, 1);
	system.foresee(main.state, 1);
	system.factorTangent(main.state, 1);
	const slopes = (change: Laid): number[] => {
		const g = model.sensitivity(main.state, laid, change);
		const du = system.factor.solve(g.map((v) => -v));
		const h = 1e-3;
		const [up, down] = [movedState(main.state, du, h), movedState(main.state, du, -h)];
		return plan.features.map((f) => (read(f, up) - read(f, down)) / (2 * h));
	};
	const scaled = (from: { lambda: Float64Array[]; amounts: Float64Array[] }, by: readonly number[]) => laidOf(from, by);
	const parts: { label: string; low: number[]; high: number[] }[] = [];
	const symmetric = (label: string, size: number[]) => parts.push({ label, low: size.map((v) => -Math.abs(v)), high: size.map((v) => Math.abs(v)) });
	const root = cholesky(factors.covariance, FACTOR_NAMES.length);
	let stepsDone = 0;
	FACTOR_NAMES.forEach((name, i) => {
		const shifted = (f: number) => factors.mean.map((m, k) => m + f * Z90 * root[k * FACTOR_NAMES.length + i]);
		if (factors.mean.every((_, k) => root[k * FACTOR_NAMES.length + i] === 0)) return;
		// the whole change to either end of the factor's range, by solving anew: past buckling a slope would mislead
		const ends = [-1, 1].map((f) => {
			const there = laidOf(last, scalesOf(shifted(f)));
			const r = model.solve(there, { from: main.state });
			progress(0.75 + (0.2 * ++stepsDone) / (2 * FACTOR_NAMES.length));
			return r.converged ? plan.features.map((feature, k) => read(feature, r.state) - values[k]) : undefined;
		});
		const by = scalesOf(shifted(1)).map((v, k) => v - scales[k]);
		const slope = ends.every((e) => e) ? undefined : slopes(scaled(last, by));
		const [down, up] = [ends[0] ?? slope!.map((v) => -v), ends[1] ?? slope!];
		parts.push({ label: name, low: values.map((_, k) => Math.min(0, down[k], up[k])), high: values.map((_, k) => Math.max(0, down[k], up[k])) });
	});
	model.lay(laid, 1);
	system.foresee(main.state, 1);
	system.factorTangent(main.state, 1);
	const eccentric = ACTIONS.map((_, k) => (k === 3 ? scales[3] * ECCENTRICITY_SPREAD * Z90 : 0));
	symmetric('where the pull sits in the thickness', slopes(scaled(last, eccentric)));
	a.mesh.seams.forEach((seam, k) => {
		const owners = [...a.staged.sources].filter(([owner]) => a.staged.seamOfRun.get(owner) === k);
		if (!owners.length) return;
		const sum = owners.map(([, source]) => laidOf(source, scales)).reduce(addLaid);
		symmetric(`seam “${seam.joint.name}” by itself`, slopes(times(sum, SEAM_SCATTER * Z90)));
		if (!seam.joint.gapMeasured) {
			// the share of the seam's shrinkage that the gap stands for
			const used = a.responses.find((r) => r.joint === seam.joint.id);
			const shrink = used?.response.transverseShrinkageMm ?? 0;
			if (shrink > 0) {
				const only = owners.map(([, source]) => laidOf(source, ACTIONS.map((_, i) => (i === 1 ? scales[1] : 0)))).reduce(addLaid);
				symmetric(`gap of “${seam.joint.name}”`, slopes(times(only, (0.1 * GAP_SIGMA_MM * Z90) / shrink)));
			}
		}
	});
	const influence = new Map<string, number[]>();
	for (const [owner, source] of a.staged.sources) influence.set(owner, slopes(laidOf(source, scales)));
	progress(0.98);

	const features = quick.result.features.map((f, k): FeatureForecast => {
		const spread = (side: 'low' | 'high') => Math.sqrt(parts.reduce((s, p) => s + p[side][k] ** 2, 0));
		const [down, up] = [spread('low'), spread('high')];
		const floor = ['flatness', 'straightness', 'twist', 'squareness'].includes(f.kind) ? 0 : -Infinity;
		let low = Math.max(floor, values[k] - down);
		let high = values[k] + up;
		let words = '';
		if (otherValues && Math.abs(otherValues[k] - values[k]) > 0.02 * Math.abs(values[k]) + 1e-3) {
			low = Math.min(low, Math.max(floor, otherValues[k] - down));
			high = Math.max(high, otherValues[k] + up);
			words = 'Either way: the piece can settle in two shapes, and the band holds both.';
		}
		const band = { predicted: values[k], low, high };
		return {
			...f,
			...band,
			other: words ? otherValues![k] : undefined,
			verdict: verdictOf(f.tolerance, low, high),
			moments: { ...f.moments, unclamped: band },
			history: [...f.history.slice(0, -1), values[k]],
			influence: [...influence].map(([step, v]) => ({ step, value: v[k] })),
			caution: words,
			quick: f.predicted,
			bandParts: parts
				.map((p) => ({ label: p.label, low: p.low[k], high: p.high[k] }))
				.sort((x, y) => y.high - y.low - (x.high - x.low))
				.slice(0, 6)
		};
	});
	const seconds = clock() - t0;
	progress(1);
	return {
		result: {
			...quick.result,
			depth: 'final-shape',
			method: { ...quick.result.method, ...FINAL_METHOD },
			features,
			margins: panelMargins(a, modes),
			warnings,
			finalShape: {
				converged: main.converged,
				share: main.share,
				posture: model.postureWords,
				iterations: main.iterations,
				branchings: main.branchings,
				eitherWay: other !== undefined,
				forceResidualN: main.forceResidual,
				lowestFactors: modes.filter((m) => m.factor > 0).map((m) => m.factor)
			},
			timings: [...quick.result.timings, { name: 'final shape', ms: seconds }]
		},
		shape: drawn(a, main.state),
		other: other ? drawn(a, other) : undefined
	};
}

const addLaid = (p: Laid, q: Laid): Laid => ({ lambda: p.lambda.map((v, i) => v + q.lambda[i]), amounts: p.amounts.map((v, i) => v + q.amounts[i]) });
const times = (p: Laid, f: number): Laid => ({ lambda: p.lambda.map((v) => f * v), amounts: p.amounts.map((v) => f * v) });

/** Value of a feature at a state of the whole piece. */
function reader(a: Analysis): (f: AnyFeature, s: State) => number {
	const lists = new Map(
		a.plan.features.map((f) => {
			const at = pointsOf(f, a.plan).points.map((p) => a.outputIndex(p.part, p.at));
			return [f.id, { at, nominal: at.map((i) => a.nominal[i]) }];
		})
	);
	return (f, s) => {
		const { at, nominal } = lists.get(f.id)!;
		const moved = at.map((i) => a.outputs[i].nodes.reduce<Vec3>((p, n, k) => add(p, scale(nodeAt(s.x, n), a.outputs[i].weights[k])), [0, 0, 0]));
		return evaluateMoved(f, nominal, moved);
	};
}

const largestDifference = (p: State, q: State, nodes: number) => {
	let worst = 0;
	for (let k = 0; k < nodes; k++) worst = Math.max(worst, distance(nodeAt(p.x, k), nodeAt(q.x, k)));
	return worst;
};

/** Displacements for drawing: the best rigid motion (small turns) taken out by the quick forecast's rule. */
function drawn(a: Analysis, s: State): Float32Array {
	return a.withoutRigid(s.x);
}

/** Each panel's margin: the lowest factor among the modes that move it most. */
function panelMargins(a: Analysis, modes: { factor: number; shape: Float64Array }[]): PanelMargin[] {
	const { mesh } = a;
	const names = panelNames(mesh);
	const out = new Map<string, PanelMargin>();
	for (const mode of modes) {
		if (mode.factor <= 0) continue;
		const moves = new Map<string, { sum: number; area: number; e: number }>();
		for (let e = 0; e < mesh.triPart.length; e++) {
			const key = `${mesh.triPart[e]}/${mesh.triPanel[e]}`;
			const nodes = [0, 1, 2].map((i) => mesh.tri[3 * e + i]);
			const [p, q, r] = nodes.map((k) => nodeAt(mesh.xyz, k));
			const n = cross(sub(q, p), sub(r, p));
			const area = norm(n) / 2;
			const w = nodes.reduce((s, k) => s + Math.abs((mode.shape[6 * k] * n[0] + mode.shape[6 * k + 1] * n[1] + mode.shape[6 * k + 2] * n[2]) / (2 * area)), 0) / 3;
			const m = moves.get(key) ?? { sum: 0, area: 0, e };
			m.sum += w * w * area;
			m.area += area;
			moves.set(key, m);
		}
		const [key, best] = [...moves].reduce((x, y) => (y[1].sum > x[1].sum ? y : x));
		if (out.has(key)) continue;
		const part = mesh.triPart[best.e];
		const panel = mesh.triPanel[best.e];
		const label = names(part, panel);
		const ratio = 1 / mode.factor;
		out.set(key, {
			part: mesh.parts[part].part.id,
			panel,
			label,
			ratio,
			words: ratio > 1 ? `${label} will wave: ${ratio.toFixed(1)} times past its limit` : `${label} holds, at ${(100 * ratio).toFixed(0)} % of its limit`
		});
	}
	return [...out.values()].sort((x, y) => y.ratio - x.ratio);
}

