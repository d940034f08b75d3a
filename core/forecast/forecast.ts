/** The one door: a plan in; features with bands, influence, steps, margins and shapes out. */
import { freedom } from '../shell/freedoms';
import { lowerFactor } from '../linalg/smallSymmetric';
import { normalsFrom } from '../linalg/random';
import type { Vec3 } from '../geometry/vec';
import type { HotFactors } from '../response/arcFactors';
import { FACTOR_METHOD, FACTOR_NAMES, factorBand, priorFactors, type ShopFactors } from '../factors/factors';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { MOMENTS, type Moment } from '../document/words';
import { Assembly } from '../sequence/assembly';
import { tackedMark } from '../sequence/timeline';
import { shapesAt } from '../staging/stage';
import { analyse, ForecastCache, scalesOf, type Analysis, type UsedResponse } from './analysis';
import { formParts, MODEL_FORMS } from './modelForm';
import { bucklingMargins, type PanelMargin } from './buckling';
import { featureKind, unitOf } from '../features';
import { verdictOf, type Verdict } from '../features/verdict';
import { datumMotion, withoutRigid } from '../linalg/rigid';
import { schedule, type Schedule } from './schedule';
import { planWarnings } from './warnings';

export const METHOD = {
	id: FACTOR_METHOD,
	name: 'Quick, linear',
	words:
		'Weld responses by layered strips that fold and bow on the springs of the piece, laid over their width run by run on a linear shell model of the whole piece. It tells lengths, angles and squareness; it cannot tell waves, dishing, or which way a thin panel pops.'
};

/** Bands are 5th to 95th percentile of this many samples of the factors. */
const SAMPLES = 160;
/** Scatter from seam to seam about the shop's mean, as a standard deviation of the logarithm (own estimate). */
export const SEAM_SCATTER = 0.15;

export interface Band {
	predicted: number;
	low: number;
	high: number;
}

export interface FeatureForecast extends Band {
	id: string;
	name: string;
	kind: AnyFeature['kind'];
	unit: 'mm' | '°';
	nominal?: number;
	tolerance: { upper: number; lower?: number; source: string };
	verdict: Verdict;
	moments: Record<Moment, Band>;
	/** value after each step */
	history: number[];
	/** what each step moves the final value by */
	influence: { step: string; value: number }[];
	/** what the method cannot say of this feature, or empty */
	caution: string;
	/** beyond the quick depth: the value the quick depth gave */
	quick?: number;
	/** at the hot and the full depth: the value the final shape gave */
	finalShape?: number;
	/** value in the other shape, where the piece can go either way */
	other?: number;
	/** what the unwelded piece reads in the same posture: its own weight */
	sag?: number;
	/** the method found no shape: its values mean nothing and are not to be shown */
	notFound?: true;
	/** what it moves by when the hold-downs come off, by the linear staging; absent where nothing is taken off */
	springback?: number;
	/** what the band comes from, widest first: change of the value at either end of each */
	bandParts?: { label: string; low: number; high: number }[];
	/** its band, the factors apart, is as many times as wide as the method’s own: so far have forecasts of this kind of feature erred here */
	errs?: number;
}

/** quick: linear staging; final-shape: one non-linear solution of the released piece; hot: the same with each arc watched along its seam; full: non-linear at every stage. */
export type Depth = 'quick' | 'final-shape' | 'hot' | 'full';

export interface FinalShapeReport {
	converged: boolean;
	/** of the welds' pull, 0 to 1, up to which the shape was found */
	share: number;
	posture: string;
	iterations: number;
	/** times an unstable equilibrium was left */
	branchings: number;
	eitherWay: boolean;
	/** stable shapes, lowest energy first, N.mm above it */
	shapes: { aboveLowestNmm: number }[];
	forceResidualN: number;
	/** buckling factors of the welds' pull, lowest first: below 1 it is past them */
	lowestFactors: number[];
}

export interface Step {
	id: string;
	label: string;
	kind: 'tacked' | 'run' | 'cold' | 'unclamped';
}

export interface ProbeForecast {
	id: string;
	name: string;
	/** mm, against the 3-2-1 datum when the plan has one, else with the whole piece's rigid motion taken out */
	displacement: Vec3;
}

export interface SeamForecast {
	joint: string;
	settings: string;
	bar?: string;
	tendonForceN: number;
	transverseShrinkageMm: number;
	angularChangeDeg: number;
	/** how far a sheet is bent by what stands on it, both sides together; 0 elsewhere */
	facePushDeg: number;
	netHeat: number;
	arcEnergy: number;
	meanAmps: number;
	volts: number;
	voltsEstimated: boolean;
	meltWidthMm: number;
	tintWidthMm: number;
	parts: { label: string; value: string }[];
}

export interface Forecast {
	depth: Depth;
	method: typeof METHOD;
	checked: { readings: number; pieces: number; words: string };
	factors: { name: string; value: number; low: number; high: number }[];
	features: FeatureForecast[];
	/** how the features err together, -1 to 1: features x features, row by row, over the draws of the quick method, free of clamps */
	correlation: number[];
	probes: ProbeForecast[];
	datum: '3-2-1' | 'best fit';
	steps: Step[];
	seams: SeamForecast[];
	/** heat through the weld-out: worked out after the rest (see QuickForecast.heat) */
	schedule?: Schedule;
	margins: PanelMargin[];
	warnings: string[];
	/** two routes to one number: the largest difference between condensed outputs and the full shape, mm */
	consistencyMm: number;
	size: { nodes: number; freedoms: number; factorNumbers: number; links: number; megabytes: number; meshMm: number };
	timings: { name: string; ms: number }[];
	reusedModel: boolean;
	finalShape?: FinalShapeReport;
	full?: { stopped: string; solutions: number; iterations: number };
	hot?: HotFactors;
}

export interface Shapes {
	xyz: Float32Array;
	tri: Uint32Array;
	triPart: Uint16Array;
	/** displacement, 3 per node, by step */
	steps: Float32Array[];
}

export interface QuickForecast {
	result: Forecast;
	analysis: Analysis;
	/** worked out when asked for: one sparse solution a step, for drawing */
	shapes(): Shapes;
	/** the schedule, worked out when asked for and put into the result */
	heat(): Schedule;
	/** the same with the heat that earlier runs have left in each run's force: what the deeper depths start from */
	warmed(): QuickForecast;
	/** the same, warmed, with what the moving arc says of each seam */
	watched(hot: HotFactors): QuickForecast;
}

export interface ForecastOptions {
	factors?: ShopFactors;
	cache?: ForecastCache;
	/** see AnalyseOptions */
	warm?: boolean;
	hot?: HotFactors;
	progress?: (share: number) => void;
	/** milliseconds from any start; the core has no clock of its own */
	clock?: () => number;
}

export const percentile = (sorted: readonly number[], p: number) => {
	const at = p * (sorted.length - 1);
	const i = Math.floor(at);
	return sorted[i] + (at - i) * ((sorted[i + 1] ?? sorted[i]) - sorted[i]);
};

/** Logarithms of the factors, scatter by seam, how far off in the thickness the pull lies, and how far corners slide (standard normal) of one draw. */
export interface Draw {
	log: number[];
	placing: number;
	/** standard normal: how far corners slide beyond what is said */
	sliding: number;
	seams: number[];
	/** standard normal, by seam: how far its gap is from the one stated */
	gaps: number[];
	/** standard normal, by model form (MODEL_FORMS) */
	forms: number[];
}

export function draws(factors: ShopFactors, seamCount: number): Draw[] {
	const n = FACTOR_NAMES.length;
	const l = lowerFactor(factors.covariance, n);
	const next = normalsFrom(20_260_101);
	const formNext = normalsFrom(20_260_102);
	const slideNext = normalsFrom(20_260_103);
	return Array.from({ length: SAMPLES }, () => {
		const z = Array.from({ length: n }, next);
		return {
			log: factors.mean.map((m, i) => m + z.reduce((s, v, j) => s + (j <= i ? l[i * n + j] * v : 0), 0)),
			placing: next(),
			sliding: slideNext(),
			seams: Array.from({ length: seamCount }, () => Math.exp(SEAM_SCATTER * next())),
			gaps: Array.from({ length: seamCount }, next),
			forms: MODEL_FORMS.map(formNext)
		};
	});
}

// eslint-disable-next-line max-lines-per-function -- the phases of the depth, one after the other
export function forecast(plan: PlanDocument, options: ForecastOptions = {}): QuickForecast {
	const clock = options.clock ?? (() => 0);
	const progress = options.progress ?? (() => {});
	const factors = options.factors ?? priorFactors();
	const t0 = clock();
	const cache = options.cache ?? new ForecastCache();
	const a = analyse(plan, cache, { progress, warm: options.warm, hot: options.hot });
	const t1 = clock();
	const scales = scalesOf(factors.mean);
	const tacked = new Map(new Assembly(plan).steps.map((s, i) => [tackedMark(s, i), i ? `“${s.name}” tacked` : 'As tacked']));
	const steps: Step[] = a.staged.marks.map((m) => {
		const index = plan.runs.findIndex((r) => r.id === m.id);
		if (m.id === 'cold' || m.id === 'unclamped') return { id: m.id, label: m.id === 'cold' ? 'Cold' : 'Unclamped', kind: m.id };
		if (index < 0) return { id: m.id, label: tacked.get(m.id)!, kind: 'tacked' };
		const run = plan.runs[index];
		return { id: m.id, label: `Run ${index + 1}: ${plan.joints.find((j) => j.id === run.joint)!.name}`, kind: 'run' };
	});
	const { bands, correlation } = sampleBands(a, factors);
	const margins = bucklingMargins(plan, a.mesh, a.sheets, seamForces(a, scales[0]));
	// past a panel's limit this depth knows nothing of what waves own
	const waves = margins.some((m) => m.ratio >= 1);
	const features = plan.features.map((f): FeatureForecast => {
		const moments = bands.get(f.id)!;
		const last = moments.unclamped;
		const final = last.predicted;
		return {
			id: f.id,
			name: f.name,
			kind: f.kind,
			unit: unitOf(f),
			nominal: a.nominalValue(f),
			tolerance: { upper: f.tolerance.upper, lower: f.tolerance.lower, source: f.tolerance.source },
			...last,
			verdict: waves && featureKind(f).isOwnedByWaves ? 'final shape' : verdictOf(f.tolerance, last.low, last.high, isUnsure(a)),
			moments,
			springback: isReleased(a) ? moments.unclamped.predicted - moments.cold.predicted : undefined,
			history: a.staged.marks.map((m) => a.featureAt(f, m.id, scales)),
			influence: [...a.staged.added].map(([step, added]) => ({ step, value: final - a.featureAt(f, 'unclamped', scales, [[added, -1]]) })),
			caution: featureKind(f).linearCaution ?? ''
		};
	});
	const t2 = clock();
	const probes = probesOf(a, scales);
	progress(1);
	const symbolic = a.condensed.model.factor.symbolic;
	const result: Forecast = {
		depth: 'quick',
		method: METHOD,
		checked: {
			readings: factors.readings,
			pieces: factors.pieces,
			words:
				factors.readings === 0
					? 'Not yet checked on this shop’s metal.'
					: `Checked on ${factors.pieces} piece${factors.pieces === 1 ? '' : 's'} of this shop (${factors.readings} reading${factors.readings === 1 ? '' : 's'}).`
		},
		factors: FACTOR_NAMES.map((name) => ({ name, ...factorBand(factors, name) })),
		features,
		correlation,
		probes: probes.list,
		datum: probes.datum,
		steps,
		seams: a.responses
			// a tack takes its seam's response: listed by itself only where the seam has no run
			.filter((r) => r.runs.size > 0 || !a.responses.some((q) => q.joint === r.joint && q.runs.size > 0))
			.map(({ joint, settings, bar, response: r, runs, cut }) => ({
				joint,
				settings,
				bar,
				tendonForceN: r.tendonForceN,
				transverseShrinkageMm: r.transverseShrinkageMm,
				angularChangeDeg: (r.angularChangeRad * 180) / Math.PI,
				facePushDeg: (r.facePushRad * 180) / Math.PI,
				netHeat: r.heat.netHeat,
				arcEnergy: r.heat.arcEnergy,
				meanAmps: r.heat.meanAmps,
				volts: r.heat.volts,
				voltsEstimated: r.heat.voltsEstimated,
				meltWidthMm: r.meltWidthMm,
				tintWidthMm: r.tintWidthMm,
				parts: [...r.parts, ...ofOtherRuns({ runs, cut })]
			})),
		margins,
		warnings: planWarnings(a),
		consistencyMm: consistency(a, scales),
		size: {
			nodes: a.mesh.nodeCount,
			freedoms: a.condensed.model.freedoms,
			factorNumbers: symbolic.factorSize,
			links: a.condensed.rowCount,
			megabytes: a.condensed.bytes / 1e6,
			meshMm: a.mesh.sizeMm
		},
		timings: [
			{ name: 'model and stages', ms: t1 - t0 },
			{ name: 'bands and influence', ms: t2 - t1 }
		],
		reusedModel: a.reused
	};
	result.schedule = a.heat;
	const quick: QuickForecast = {
		analysis: a,
		result,
		shapes: () => shapesOf(a, scales),
		heat: () => (result.schedule ??= schedule(plan, a.mesh)),
		warmed: () => (options.warm ? quick : forecast(plan, { ...options, cache, warm: true, progress: undefined })),
		watched: (hot) => forecast(plan, { ...options, cache, warm: true, hot, progress: undefined })
	};
	return quick;
}

const isReleased = (a: Analysis) => [...a.staged.added.keys()].some((owner) => owner.startsWith('release:'));

/** A seam's response lies outside what the methods can speak of. */
export const isUnsure = (a: Analysis) => a.responses.some((r) => r.runs.size > 0 && r.response.isOutside);

/** What other runs' heat does to a seam's, as lines of its response's breakdown. */
function ofOtherRuns({ runs, cut }: Pick<UsedResponse, 'runs' | 'cut'>): { label: string; value: string }[] {
	const line = (label: string, of: ReadonlyMap<string, number>) => {
		const factors = [...of.values()].filter((f) => f !== 1);
		if (!factors.length) return [];
		const [low, high] = [Math.min(...factors), Math.max(...factors)].map((f) => f.toFixed(2));
		return [{ label: `${label}, in ${factors.length} of ${of.size} runs`, value: low === high ? `x ${low}` : `x ${low} to ${high}` }];
	};
	return [...line('Heat left by other seams', runs), ...line('Runs that begin and end: their own heat, and what runs beside them bring', cut)];
}

/** Tendon force of each welded seam, N, with the shop's factor. */
export const seamForces = (a: Analysis, factor: number) =>
	a.mesh.seams.map((s) =>
		Math.max(
			0,
			...a.responses
				.filter((r) => r.joint === s.joint.id && a.plan.runs.some((run) => run.joint === s.joint.id))
				.map((r) => r.response.tendonForceN * factor)
		)
	);

/** A gap that was not measured is known to about this, mm (own estimate), and shrinks by 0.10 of itself (Blodgett). */
export const GAP_SIGMA_MM = 0.15;

/** Of a seam's transverse shrinkage, one standard deviation of what its unmeasured gap may add; 0 where it was measured. */
export function gapShare(a: Analysis, seam: number): number {
	const { joint } = a.mesh.seams[seam];
	const shrink = a.responses.find((r) => r.joint === joint.id)?.response.transverseShrinkageMm ?? 0;
	return joint.gapMeasured || !(shrink > 0) ? 0 : (0.1 * GAP_SIGMA_MM) / shrink;
}

function sampleBands(a: Analysis, factors: ShopFactors): { bands: Map<string, Record<Moment, Band>>; correlation: number[] } {
	const { plan, staged } = a;
	const list = draws(factors, a.mesh.seams.length);
	const mean = scalesOf(factors.mean);
	// what all runs of one seam added, for its own scatter
	const bySeam = a.mesh.seams.map((_, k) => {
		const sum = [...staged.added].filter(([owner]) => staged.seamOfRun.get(owner) === k).map(([, v]) => v);
		return sum.length ? sum[0].map((first, action) => Float64Array.from(first, (_, i) => sum.reduce((s, v) => s + v[action][i], 0))) : undefined;
	});
	// the share of a seam's shrinkage that its gap stands for, where the gap was not measured
	const byGap = bySeam.map((added, k) => {
		const share = added ? gapShare(a, k) : 0;
		return share > 0 ? added!.map((v, action) => (action === 1 ? v : new Float64Array(0))) : undefined;
	});
	const parts = [
		...bySeam.flatMap((added, k) => (added ? [{ added, more: (d: Draw) => d.seams[k] - 1 }] : [])),
		...byGap.flatMap((added, k) => {
			const share = gapShare(a, k);
			return added ? [{ added, more: (d: Draw) => d.gaps[k] * share }] : [];
		}),
		...formParts(a).map(({ added, form, more }) => ({ added, more: (d: Draw) => more(d.forms[form]) }))
	];
	const released = isReleased(a);
	const out = new Map<string, Record<Moment, Band>>();
	const last: number[][] = [];
	for (const f of plan.features) {
		const bands = {} as Record<Moment, Band>;
		for (const moment of MOMENTS) {
			// nothing was released: cold and unclamped are one state
			if (moment === 'unclamped' && !released) {
				bands.unclamped = { ...bands.cold };
				continue;
			}
			const mark = a.markOf(f, moment);
			const predicted = a.featureAt(f, mark, mean);
			// nothing is welded yet
			const tacked = mark === 'as-tacked';
			const value = a.sampler(f, mark, tacked ? [] : parts.map((p) => p.added));
			const drawn = list.map((d) =>
				value(
					scalesOf(d.log, d.placing, d.sliding),
					parts.map((p) => p.more(d))
				)
			);
			if (moment === (released ? 'unclamped' : 'cold')) last.push(drawn);
			const values = [...drawn].sort((p, q) => p - q);
			bands[moment] = { predicted, low: Math.min(predicted, percentile(values, 0.05)), high: Math.max(predicted, percentile(values, 0.95)) };
		}
		out.set(f.id, bands);
	}
	return { bands: out, correlation: correlationOf(last) };
}

/** Of rows of draws, with each other; one that does not vary goes with none. */
function correlationOf(rows: readonly (readonly number[])[]): number[] {
	const centred = rows.map((row) => {
		const mean = row.reduce((s, v) => s + v, 0) / row.length;
		return row.map((v) => v - mean);
	});
	const size = centred.map((row) => Math.sqrt(row.reduce((s, v) => s + v * v, 0)));
	return centred.flatMap((p, i) =>
		centred.map((q, j) => {
			if (i === j) return 1;
			const both = size[i] * size[j];
			return both > 1e-18 ? p.reduce((s, v, k) => s + v * q[k], 0) / both : 0;
		})
	);
}

/** Two routes to the final displacements: condensed outputs against the full solution, mm. */
function consistency(a: Analysis, scales: readonly number[]): number {
	const mark = a.staged.marks[a.staged.marks.length - 1];
	const [shape] = shapesAt([mark], a.condensed, scales);
	const y = a.combined(mark.id, scales);
	let worst = 0;
	a.outputs.forEach((o, i) => {
		for (let d = 0; d < 3; d++)
			worst = Math.max(worst, Math.abs(y[3 * i + d] - o.nodes.reduce((s, n, k) => s + o.weights[k] * shape[freedom(n, d)], 0)));
	});
	return worst;
}

/** Shapes of every step for drawing, rigid motion taken out. */
function shapesOf(a: Analysis, scales: readonly number[]): Shapes {
	const { mesh } = a;
	const full = shapesAt(a.staged.marks, a.condensed, scales);
	const steps = full.map((u) => {
		const now = new Float64Array(3 * mesh.nodeCount);
		for (let k = 0; k < mesh.nodeCount; k++) for (let d = 0; d < 3; d++) now[3 * k + d] = mesh.xyz[3 * k + d] + u[freedom(k, d)];
		return a.withoutRigid(now);
	});
	return { xyz: Float32Array.from(mesh.xyz), tri: Uint32Array.from(mesh.tri), triPart: Uint16Array.from(mesh.triPart), steps };
}

function probesOf(a: Analysis, scales: readonly number[]): { list: ProbeForecast[]; datum: Forecast['datum'] } {
	const { plan } = a;
	const u = a.displacements(a.combined('unclamped', scales));
	const at = (p: { part: string; at: [number, number] }) => a.outputIndex(p.part, p.at);
	let moved = u;
	if (plan.datum) {
		const three = [plan.datum.origin, plan.datum.axis, plan.datum.plane].map((id) => at(plan.points.find((p) => p.id === id)!));
		const p = three.map((i) => a.nominal[i]) as [Vec3, Vec3, Vec3];
		moved = withoutRigid(a.nominal, u, p[0], datumMotion(p, three.map((i) => u[i]) as [Vec3, Vec3, Vec3]));
	}
	return { list: plan.probes.map((p) => ({ id: p.id, name: p.name, displacement: moved[at(p)] })), datum: plan.datum ? '3-2-1' : 'best fit' };
}
