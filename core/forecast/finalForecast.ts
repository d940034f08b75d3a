/**
 * The second depth behind the door: the quick forecast's staging, then one non-linear solution of the joined, released
 * piece. Bands from a linearisation at the shape found, checked by full re-solutions; both branches where there are two.
 */
import { freedom } from '../shell/freedoms';
import { add, cross, distance, norm, scale, sub, type Vec3 } from '../geometry/vec';
import type { Minimised } from '../equilibrium/minimise';
import { moved as movedState, type State } from '../equilibrium/state';
import { isFactor, priorFactors, type ShopFactors } from '../factors/factors';
import { SAG_MATTERS } from '../families/suitablePosture';
import { findMaterial } from '../materials/grades';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { POSTURES, type Posture } from '../document/words';
import { nodeAt } from '../shell/model';
import { FinalShape, type Pull } from '../staging/finalShape';
import { scalesOf, type Analysis } from './analysis';
import type { PanelMargin } from './buckling';
import { featureKind, unitOf } from '../features';
import { tapeEnds } from '../features/taped';
import { verdictOf } from '../features/verdict';
import { isUnsure, type FeatureForecast, type Forecast, type ProbeForecast, type QuickForecast } from './forecast';
import { FinalBands, type BandPart, type Beside } from './finalBands';
import { gridOutOfFlat, modesOutOfFlat } from './outOfFlat';
import { panelNames } from './panels';
import { RigidFit, seenFromDatum } from '../linalg/rigid';

/** Two shapes that differ by less than this share of the thickness are one. */
const SAME_SHAPE = 0.1;
/** Of the buckles past their limit, this many of the lowest are turned over in search of a second shape. */
const BUCKLES_TURNED = 2;
/** The second way to buckle is followed too where it comes by this many times the lowest's pull; begun this high, in sheet thicknesses. */
const NEAR = 1.6;
const MODE_HEIGHT = 0.5;
/** Less of the lowest buckle than this share of the thickness is a sheet still flat. */
const STILL_FLAT = 0.2;
/** Load steps at most before they grow. */
const MOST_STEPS = 8;
/** Buckling factors looked for. */
const MODES = 6;

export const FINAL_METHOD = {
	name: 'Final shape',
	words:
		'The quick staging, then one non-linear solution of the joined, released piece under its weight, in the posture stated. It knows waves, dishing and which way a panel goes; it does not know what the hot metal does to a gap ahead of the arc, and takes the sheet as flat before welding.'
};

export interface FinalOptions {
	factors?: ShopFactors;
	progress?: (share: number) => void;
	clock?: () => number;
	beside?: readonly Beside[];
}

export interface FinalForecast {
	result: Forecast;
	/** displacement of the final shape, 3 per node of the quick forecast's drawing; and of the other branch if there is one */
	shape: Float32Array;
	other?: Float32Array;
	/** every cause of the bands, and what the factors do, by feature in the plan's order: what learning and looking for causes begin from */
	sensitivity: { parts: readonly BandPart[]; slopes: ReadonlyMap<string, readonly number[]>; others: readonly (readonly number[])[] };
}

// eslint-disable-next-line complexity -- the phases of the depth, one after the other
export function finalForecast(cold: QuickForecast, options: FinalOptions = {}): FinalForecast {
	const clock = options.clock ?? (() => 0);
	const progress = options.progress ?? (() => {});
	const factors = options.factors ?? priorFactors();
	const t0 = clock();
	const quick = cold.warmed();
	const { analysis: a } = quick;
	const { plan } = a;
	const quickValue = new Map(cold.result.features.map((f) => [f.id, f.predicted]));
	const scales = scalesOf(factors.mean);
	const densities = plan.parts.map((p) => findMaterial(p.material, plan.materials).density);
	const grid = gridOutOfFlat(plan, a.mesh);
	const build = (posture = plan.posture, outOfFlat = grid) =>
		new FinalShape(plan, a.mesh, a.sheets, densities, a.condensed, a.staged, posture, outOfFlat);
	let model = build();
	const last = a.staged.marks[a.staged.marks.length - 1];
	const laid = model.pull(last, scales);

	// margins of the joined piece: the welds' pull against the lowest ways to buckle
	const held = plan.posture === 'three-points' ? model : build('three-points');
	const modes = held.modes(held === model ? laid : held.pull(last, scales), MODES);
	if (plan.shape?.modes?.length) model = build(plan.posture, modesOutOfFlat(plan, modes, a.mesh.nodeCount, grid));
	progress(0.2);
	const buckled = modes.filter((m) => m.factor > 0 && m.factor < 1);
	// small first steps, so that the first way to buckle is met before the next
	const first = model.solve(laid, {
		steps: Math.min(MOST_STEPS, Math.max(4, Math.ceil(1 / (buckled[0]?.factor ?? 1)))),
		progress: (s) => progress(0.2 + 0.3 * s)
	});
	const warnings = [...quick.result.warnings];
	if (!first.converged) warnings.unshift(`Final shape: ${first.words} No value of it is shown.`);
	const shapes = first.converged ? stableShapes(model, laid, first, buckled, a, () => progress(0.6)) : [first];
	const asked0 = plan.shape?.branch ?? 1;
	if (asked0 > shapes.length)
		warnings.unshift(
			`Final shape: shape ${asked0} was asked for; ${shapes.length} ${shapes.length === 1 ? 'was' : 'were'} found. The lowest is shown.`
		);
	const main = shapes[asked0 - 1] ?? shapes[0];
	const others = shapes.filter((s) => s !== main);
	const other = others[0]?.state;
	progress(0.75);

	const read = reader(a);
	const values = plan.features.map((f) => read(f, main.state));
	const otherValues = others.map((o) => plan.features.map((f) => read(f, o.state)));
	// the piece as it would lie there unwelded: what its own weight does
	const sags = plan.shape?.weightless ? undefined : sagOf(plan, a, model, build, read);
	if (sags) warnings.push(...sags.words);

	const uncertain = new FinalBands(a, model, factors, scales, laid, read, options.beside);
	uncertain.atShape(main);
	progress(0.8);
	if (main.converged) uncertain.solvedAnew(main, values, (s) => progress(0.8 + 0.18 * s));
	const features = quick.result.features.map((f, k) =>
		featureOf(f, k, {
			a,
			main,
			values,
			otherValues,
			uncertain,
			sags,
			quick: quickValue.get(f.id),
			errs: factors.form?.[plan.features[k].kind] ?? 1
		})
	);
	const seconds = clock() - t0;
	progress(1);
	return {
		result: {
			...quick.result,
			depth: 'final-shape',
			method: { ...quick.result.method, ...FINAL_METHOD },
			features,
			probes: probesAt(a, main.state),
			margins: panelMargins(a, modes),
			warnings,
			finalShape: {
				converged: main.converged,
				share: main.share,
				posture: model.postureWords,
				iterations: main.iterations,
				branchings: main.branchings,
				eitherWay: other !== undefined,
				shapes: shapes.map((s) => ({ aboveLowestNmm: s.energy - shapes[0].energy })),
				forceResidualN: main.forceResidual,
				lowestFactors: modes.filter((m) => m.factor > 0).map((m) => m.factor)
			},
			timings: [...quick.result.timings, { name: 'final shape', ms: seconds }]
		},
		shape: drawn(a, main.state),
		other: other ? drawn(a, other) : undefined,
		sensitivity: { parts: uncertain.parts, slopes: uncertain.slopes, others: otherValues }
	};
}

/** A feature of the quick forecast with what the final shape makes of it: its value, its band, and the other shapes' values in it. */
function featureOf(
	f: FeatureForecast,
	k: number,
	{
		a,
		main,
		values,
		otherValues,
		uncertain,
		sags,
		quick,
		errs
	}: {
		a: Analysis;
		main: Minimised;
		values: readonly number[];
		otherValues: readonly number[][];
		uncertain: FinalBands;
		sags: ReturnType<typeof sagOf> | undefined;
		quick: number | undefined;
		/** how many times as far as its band says it errs in features of this kind, as the shop’s readings have it */
		errs: number;
	}
): FeatureForecast {
	// what the factors leave open is learned with them; the rest is as wide as the shop has seen it
	const parts = uncertain.parts.map(({ label, low, high }) => {
		const times = isFactor(label) ? 1 : errs;
		return { label, low: times * low[k], high: times * high[k] };
	});
	const spread = (side: 'low' | 'high') => Math.sqrt(parts.reduce((s, p) => s + p[side] ** 2, 0));
	const [down, up] = [spread('low'), spread('high')];
	const floor = featureKind(f).isSigned ? -Infinity : 0;
	let low = Math.max(floor, values[k] - down);
	let high = values[k] + up;
	let words = '';
	for (const theirs of otherValues)
		if (Math.abs(theirs[k] - values[k]) > 0.02 * Math.abs(values[k]) + 1e-3) {
			low = Math.min(low, Math.max(floor, theirs[k] - down));
			high = Math.max(high, theirs[k] + up);
			words = `${otherValues.length > 1 ? `Any of ${otherValues.length + 1} ways` : 'Either way'}: the piece can settle in ${otherValues.length + 1} shapes, and the band holds them all.`;
		}
	const band = { predicted: values[k], low, high };
	return {
		...f,
		...band,
		other: words ? otherValues[0][k] : undefined,
		sag: sags?.values[k],
		notFound: main.converged ? undefined : true,
		// part of the pull says nothing for certain of all of it
		verdict: main.converged ? verdictOf(f.tolerance, low, high, isUnsure(a)) : 'in doubt',
		moments: { ...f.moments, unclamped: band },
		history: [...f.history.slice(0, -1), values[k]],
		influence: [...uncertain.influence].map(([step, v]) => ({ step, value: v[k] })),
		caution: words,
		quick,
		bandParts: [...parts].sort((x, y) => y.high - y.low - (x.high - x.low)).slice(0, 6),
		...(errs === 1 ? {} : { errs })
	};
}

/**
 * Every stable shape found with the whole pull on, lowest energy first: the one that was reached by steps, those begun from the
 * lowest ways to buckle, and those with a buckle turned over.
 */
function stableShapes(
	model: FinalShape,
	laid: Pull,
	first: Minimised,
	buckled: readonly { factor: number; shape: Float64Array }[],
	a: Analysis,
	progress: () => void
): Minimised[] {
	const thinnest = Math.min(...a.sheets.map((s) => s.thickness));
	const found = [first];
	const keep = (r: Minimised): boolean => {
		if (!r.converged || found.some((f) => largestDifference(f.state, r.state, a.mesh.nodeCount) <= SAME_SHAPE * thinnest)) return false;
		found.push(r);
		return true;
	};
	/** begins where a way to buckle becomes possible, along it by a part of the thickness, and follows it up */
	const along = ({ factor, shape }: (typeof buckled)[number], sign: number) => {
		keep(
			model.solve(laid, {
				begin: { state: movedState(model.start, shape, (sign * MODE_HEIGHT * thinnest) / largest(shape)), share: factor },
				steps: Math.min(MOST_STEPS, Math.max(3, Math.ceil(1 / factor))),
				progress
			})
		);
		progress();
	};
	const largest = (shape: Float64Array) => {
		let most = 0;
		for (let k = 0; k < a.mesh.nodeCount; k++) for (let d = 0; d < 3; d++) most = Math.max(most, Math.abs(shape[freedom(k, d)]));
		return most;
	};
	const [lowest, next] = buckled;
	// a sheet that its bench or its symmetry kept flat past its limit: both ways of the lowest buckle
	if (lowest && Math.abs(shareOf(first.state, model.start, lowest.shape)) * largest(lowest.shape) < STILL_FLAT * thinnest) {
		along(lowest, 1);
		along(lowest, -1);
	}
	// the way by steps has followed the lowest: the next one, where it comes soon after
	if (next && next.factor < NEAR * lowest.factor) along(next, 1);
	for (const { shape } of buckled.slice(0, BUCKLES_TURNED)) {
		if (keep(model.solve(laid, { from: turnedOver(first.state, model.start, shape), once: true, progress }))) break;
		progress();
	}
	return found.sort((p, q) => p.energy - q.energy);
}

function sagOf(plan: PlanDocument, a: Analysis, model: FinalShape, build: (posture: Posture) => FinalShape, read: ReturnType<typeof reader>) {
	const lying = (m: FinalShape) => {
		// the weight is on from the first: steps would lay on nothing
		const r = m.solve(m.emptyPull(), { steps: 1 });
		return r.converged ? plan.features.map((f) => read(f, r.state)) : undefined;
	};
	const values = lying(model);
	if (!values)
		return {
			values: plan.features.map(() => undefined),
			words: ['The piece does not lie still under its own weight in the posture chosen: hold it in more places, or choose another posture.']
		};
	const heavy = plan.features
		.map((f, k) => ({ f, k }))
		.filter(({ f, k }) => Math.abs(values[k]) > SAG_MATTERS * Math.max(Math.abs(f.tolerance.upper), 1e-9));
	if (!heavy.length) return { values, words: [] };
	const others = POSTURES.filter((p) => p !== plan.posture).map((posture) => ({ posture, values: lying(build(posture)) }));
	const words = heavy.map(({ f, k }) => {
		const unit = unitOf(f);
		const best = others.filter((o) => o.values).sort((p, q) => Math.abs(p.values![k]) - Math.abs(q.values![k]))[0];
		const cure =
			best && Math.abs(best.values![k]) < 0.5 * Math.abs(values[k])
				? ` ${POSTURE_WORDS[best.posture]} it is ${Math.abs(best.values![k]).toFixed(2)} ${unit}: choose that posture, and measure so.`
				: ' No posture here shows much less: support it where it sags, and measure it there.';
		return `“${f.name}” reads ${Math.abs(values[k]).toFixed(2)} ${unit} from the piece’s own weight alone, ${model.postureWords}, unwelded.${cure}`;
	});
	return { values, words };
}

const POSTURE_WORDS: Record<Posture, string> = {
	'flat-on-bench': 'Flat on the bench',
	'three-points': 'On three points',
	upright: 'Upright on its edge'
};

/** Values of the final shape alone, by feature, without bands, branches or influence: for plans that are weighed against one another. */
export function finalValues(
	cold: QuickForecast,
	factors: ShopFactors,
	progress: (share: number) => void = () => {}
): { values: number[]; words: string } {
	const { analysis: a } = cold.warmed();
	const { plan } = a;
	const densities = plan.parts.map((p) => findMaterial(p.material, plan.materials).density);
	const model = new FinalShape(plan, a.mesh, a.sheets, densities, a.condensed, a.staged, plan.posture);
	progress(0.3);
	const last = a.staged.marks[a.staged.marks.length - 1];
	const main = model.solve(model.pull(last, scalesOf(factors.mean)), { progress: (s) => progress(0.3 + 0.7 * s) });
	const read = reader(a);
	return { values: plan.features.map((f) => read(f, main.state)), words: main.converged ? '' : main.words };
}

/** Probes at a state: against the 3-2-1 datum by true distances, or with the best rigid motion (small turns) taken out. */
export function probesAt(a: Analysis, s: State): ProbeForecast[] {
	const { plan } = a;
	const moved = a.outputs.map((o) => o.nodes.reduce<Vec3>((p, n, k) => add(p, scale(nodeAt(s.x, n), o.weights[k])), [0, 0, 0]));
	const place = (p: { part: string; at: [number, number] }) => a.outputIndex(p.part, p.at);
	const still = new RigidFit(a.nominal, a.nominal[0] ?? [0, 0, 0]);
	const free = plan.datum || !plan.probes.length ? [] : still.without(moved.map((p, i) => sub(p, a.nominal[i])));
	const datum = plan.datum && [plan.datum.origin, plan.datum.axis, plan.datum.plane].map((id) => place(plan.points.find((p) => p.id === id)!));
	return plan.probes.map((p) => {
		const i = place(p);
		if (!datum) return { id: p.id, name: p.name, displacement: free[i] };
		const three = (list: readonly Vec3[]) => datum.map((k) => list[k]) as [Vec3, Vec3, Vec3];
		return { id: p.id, name: p.name, displacement: sub(seenFromDatum(three(a.nominal), three(moved), moved[i]), a.nominal[i]) };
	});
}

/** Value of a feature at a state of the whole piece. */
export function reader(a: Analysis): (f: AnyFeature, s: State) => number {
	const lists = new Map(
		a.plan.features.map((f) => {
			const at = featureKind(f)
				.places(f, a.plan)
				.map((p) => a.outputIndex(p.part, p.at));
			const ends = tapeEnds(f, a.plan);
			return [f.id, { at, ends, nominal: at.map((i, k) => add(a.nominal[i], ends[k])) }];
		})
	);
	return (f, s) => {
		const { at, ends, nominal } = lists.get(f.id)!;
		const moved = at.map((i, e) => a.outputs[i].nodes.reduce<Vec3>((p, n, k) => add(p, scale(nodeAt(s.x, n), a.outputs[i].weights[k])), ends[e]));
		return featureKind(f).movedFar(f, nominal, moved);
	};
}

/** How much of a buckling mode a state holds, times the mode. */
function shareOf(s: State, start: State, mode: Float64Array): number {
	let [along, size] = [0, 0];
	for (let k = 0; k < s.x.length / 3; k++)
		for (let d = 0; d < 3; d++) {
			along += mode[freedom(k, d)] * (s.x[3 * k + d] - start.x[3 * k + d]);
			size += mode[freedom(k, d)] ** 2;
		}
	return along / size;
}

/** The state with its share of a buckling mode turned round: as far on the other side. */
const turnedOver = (s: State, start: State, mode: Float64Array): State => movedState(s, mode, -2 * shareOf(s, start, mode));

const largestDifference = (p: State, q: State, nodes: number) => {
	let worst = 0;
	for (let k = 0; k < nodes; k++) worst = Math.max(worst, distance(nodeAt(p.x, k), nodeAt(q.x, k)));
	return worst;
};

/** Displacements for drawing: the best rigid motion (small turns) taken out by the quick forecast's rule. */
export function drawn(a: Analysis, s: State): Float32Array {
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
			const w =
				nodes.reduce(
					(s, k) =>
						s + Math.abs((mode.shape[freedom(k, 0)] * n[0] + mode.shape[freedom(k, 1)] * n[1] + mode.shape[freedom(k, 2)] * n[2]) / (2 * area)),
					0
				) / 3;
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
			words:
				ratio > 1 ? `${label} will wave: ${ratio.toFixed(1)} times past its limit` : `${label} holds, at ${(100 * ratio).toFixed(0)} % of its limit`
		});
	}
	return [...out.values()].sort((x, y) => y.ratio - x.ratio);
}
