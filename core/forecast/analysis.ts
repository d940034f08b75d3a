/** The linear analysis behind a forecast: mesh, condensed model, stages, and features as functions of the shop factors. */
import { blocksOf } from '../holds';
import { add, scale, type Vec2, type Vec3 } from '../geometry/vec';
import { multipliers } from '../factors/factors';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { findMaterial } from '../materials/grades';
import { assemblyMesh, locate, type AssemblyMesh, type MeshPoint } from '../mesh/assemblyMesh';
import { shapeOf } from '../mesh/shapeOf';
import type { AnyFeature, Bar, PlanDocument } from '../document/schema';
import { isOnDuringRun, isOnDuringTacks } from '../document/steps';
import { responseInput } from '../response/forPlan';
import { forceFactor, springsOf, weldResponse, type ForceVariants, type ResponseInput, type WeldResponse } from '../response/weldResponse';
import { nodeAt } from '../shell/model';
import type { SheetMaterial } from '../shell/triangle';
import { condense, type Condensed } from '../staging/condense';
import { eventsOf, NO_ACTIONS, type Actions, type StageEvent } from '../staging/events';
import { bendingStiffness, JoinFactors } from '../staging/restraint';
import { stage, type Staged } from '../staging/stage';
import { ACTIONS } from '../staging/weldBook';
import { featureKind } from '../features';
import { RigidFit } from './rigid';
import { profileAt, residualProfile } from './residual';
import { settingsOf, weldOut, type Schedule } from './schedule';

/** Keeps the condensed model of the last geometry, so that an edit of tacks, settings or order is dense algebra only. */
export class ForecastCache {
	/** @param kernel compiled kernels of the host, if it has them */
	constructor(readonly kernel?: KernelFactory) {}
	key = '';
	mesh?: AssemblyMesh;
	condensed?: Condensed;
	outputs: MeshPoint[] = [];
	readonly responses = new Map<string, WeldResponse>();
	/** factors on tendon forces under other conditions, by condition and response */
	readonly forces = new Map<string, number>();
}

/** A response with what it was worked out for. */
export interface UsedResponse {
	joint: string;
	settings: string;
	bar?: string;
	response: WeldResponse;
	input: ResponseInput;
	/** runs laid with it, by id; with the factor on their force from the heat that earlier runs have left */
	runs: Map<string, number>;
}

/** Profiles are taken to the nearest so many kelvin, so that alike runs share a solution: under a per cent of the force. */
const ROUNDED_K = 10;
/** A rise below this is not worth a solution of its own, K: the force changes by less than a per cent. */
const RISE_MATTERS = 12;

/** Multipliers by action, in the order of ACTIONS. */
export type Scales = readonly number[];

export interface Analysis {
	plan: PlanDocument;
	mesh: AssemblyMesh;
	sheets: SheetMaterial[];
	condensed: Condensed;
	staged: Staged;
	/** the same steps in order, for the non-linear depth */
	events: StageEvent[];
	/** by joint and setting, with the bar that was on if any */
	responses: UsedResponse[];
	/** the schedule, where the heat that earlier runs left is in the forces */
	heat?: Schedule;
	/** share by which a run's force changes where its bar touches half or twice as well, by run; runs without a bar are not in it */
	barContact(): Map<string, { half: number; twice: number }>;
	/** the staging anew with every hold-down this many times as stiff */
	restaged(stiffness: number): Staged;
	reused: boolean;
	/** output points, in the mesh and in space */
	outputs: MeshPoint[];
	nominal: Vec3[];
	/** the value of a feature with given multipliers; an action's outputs may be empty where it adds nothing */
	featureAt(feature: AnyFeature, mark: string, scales: Scales, extra?: readonly (readonly [Float64Array[], number])[]): number;
	/** the same for many draws: the value as a function of the multipliers and of how many times more each of `parts` counts */
	sampler(feature: AnyFeature, mark: string, parts: readonly Float64Array[][]): (scales: Scales, more: ArrayLike<number>) => number;
	/** the value of a feature for outputs (3 per output point, mm) put together elsewhere */
	valueOf(feature: AnyFeature, y: ArrayLike<number>): number;
	nominalValue(feature: AnyFeature): number | undefined;
	/** displacements of all output points, rigid motion of the whole taken out */
	displacements(y: Float64Array): Vec3[];
	outputIndex(part: string, at: Vec2): number;
	combined(mark: string, scales: Scales): Float64Array;
	/** displacement of every node from its place in the drawing, for positions now; best rigid motion taken out */
	withoutRigid(xyz: Float64Array): Float32Array;
}

/**
 * Multipliers on the actions from logarithms of the shop factors; the eccentric part goes with the force. @param placing standard
 * deviations by which the force lies elsewhere in the thickness than said
 */
export function scalesOf(log: ArrayLike<number>, placing = 0): Scales {
	const m = multipliers(log);
	return [m.force, m.shrinkage, m.angle, m.force, 1, 1, m.force * placing];
}

const keyOf = (part: string, at: Vec2) => `${part}@${at[0].toFixed(4)},${at[1].toFixed(4)}`;

/** What a response depends on. */
const memoOf = (input: ResponseInput) => {
	const { joint, settings, sheets, ambientC, bar } = input;
	return JSON.stringify([
		joint.type,
		joint.penetration,
		joint.gapMm,
		joint.filler,
		joint.weldSizeMm,
		joint.response,
		settings,
		sheets.map((s) => [s.material, s.thicknessMm, s.widthMm, s.isFace]),
		bar && { ...bar, id: '', life: '', fromMm: 0, toMm: 0 },
		ambientC,
		springsOf(input).map((s) => String(s.curvature))
	]);
};

export interface AnalyseOptions {
	progress?: (share: number) => void;
	/** put the heat that earlier runs have left beside each run into its force: takes the whole weld-out's heat first */
	warm?: boolean;
	/** hold-downs that are in the model but never put on: many sets can be weighed on one condensation */
	leaveOut?: ReadonlySet<string>;
}

export function analyse(
	complete: PlanDocument,
	cache: ForecastCache,
	{ progress = () => {}, warm = false, leaveOut }: AnalyseOptions = {}
): Analysis {
	const plan = leaveOut?.size ? { ...complete, holdDowns: complete.holdDowns.filter((h) => !leaveOut.has(h.id)) } : complete;
	const sheets = plan.parts.map((p): SheetMaterial => {
		const m = findMaterial(p.material, plan.materials);
		return { eModulus: m.eModulus, poisson: m.poisson, thickness: p.thicknessMm };
	});
	// all output points once, whichever features share them
	const index = new Map<string, number>();
	const wanted: { part: string; at: Vec2 }[] = [];
	const want = (p: { part: string; at: Vec2 }) => {
		const key = keyOf(p.part, p.at);
		if (!index.has(key)) index.set(key, wanted.push(p) - 1);
	};
	for (const f of plan.features) featureKind(f).places(f, plan).forEach(want);
	plan.probes.forEach(want);
	if (plan.datum) for (const id of [plan.datum.origin, plan.datum.axis, plan.datum.plane]) want(plan.points.find((p) => p.id === id)!);

	const key = shapeOf(complete);
	const reused = cache.key === key && cache.condensed !== undefined;
	if (!reused) {
		const mesh = assemblyMesh(complete);
		progress(0.05);
		cache.outputs = wanted.map((p) => locate(mesh, p.part, p.at));
		cache.condensed = condense(complete, mesh, sheets, cache.outputs, (s) => progress(0.05 + 0.75 * s), cache.kernel);
		cache.mesh = mesh;
		cache.key = key;
	} else {
		// same shape, perhaps other names, gaps or settings: parts and seams carry those of this plan
		cache.mesh!.parts.forEach((p, k) => (p.part = plan.parts[k]));
		cache.mesh!.seams.forEach((s) => (s.joint = plan.joints.find((j) => j.id === s.joint.id)!));
	}
	const mesh = cache.mesh!;
	const condensed = cache.condensed!;
	progress(0.8);

	const used = new Map<string, UsedResponse>();
	const responseOf = (
		seam: number,
		settingsId: string | undefined,
		bar: Bar | undefined,
		bendingNmm2: ResponseInput['bendingNmm2']
	): UsedResponse => {
		const joint = mesh.seams[seam].joint;
		const settings = settingsOf(plan, { joint: joint.id, settings: settingsId });
		const input = responseInput(plan, joint, settings, bar, bendingNmm2);
		const memo = memoOf(input);
		const key = `${joint.id}/${settings.id}/${bar?.id ?? ''}/${memo}`;
		const known = used.get(key);
		if (known) return known;
		let response = cache.responses.get(memo);
		if (!response) {
			response = weldResponse(input);
			if (cache.responses.size > 500) cache.responses.clear();
			cache.responses.set(memo, response);
		}
		const entry: UsedResponse = { joint: joint.id, settings: settings.id, bar: bar?.id, response, input, runs: new Map() };
		used.set(key, entry);
		return entry;
	};
	const forceOf = (input: ResponseInput, what: string, variants: ForceVariants): number => {
		const memo = `${what}/${memoOf(input)}`;
		let force = cache.forces.get(memo);
		if (force === undefined) {
			force = forceFactor(input, variants);
			if (cache.forces.size > 3000) cache.forces.clear();
			cache.forces.set(memo, force);
		}
		return force;
	};
	const heat = warm ? weldOut(plan, mesh) : undefined;
	/** factor on a run's force from what earlier runs have left beside it */
	const residualOf = (entry: UsedResponse, runIndex: number): number => {
		const run = plan.runs[runIndex];
		const known = entry.runs.get(run.id);
		if (known !== undefined) return known;
		let factor = 1;
		if (heat) {
			const profile = residualProfile(mesh, run, heat.startFields[runIndex], plan.ambientC);
			const whole = profile.sides.map((side) => side.map((c) => ROUNDED_K * Math.round(c / ROUNDED_K))) as [number[], number[]];
			if (profile.rise > RISE_MATTERS)
				factor = forceOf(entry.input, JSON.stringify(whole), {
					startC: profileAt({ ...profile, sides: whole }),
					isEven: whole[0].every((c, k) => c === whole[1][k])
				});
		}
		entry.runs.set(run.id, factor);
		return factor;
	};
	const bars = blocksOf(plan);
	/** a tack sits in the same metal as its seam's first run */
	const firstRun = (joint: string) => plan.runs.find((r) => r.joint === joint)?.id ?? '';
	const actionsAt = (seam: number, station: number, runIndex: number): Actions => {
		const joint = mesh.seams[seam].joint;
		const bar = bars.find(
			(b) =>
				b.joint === joint.id &&
				station >= b.fromMm - 1e-6 &&
				station <= b.toMm + 1e-6 &&
				(runIndex < 0 ? isOnDuringTacks(b.life, plan) : isOnDuringRun(b.life, runIndex, plan))
		);
		const entry = responseOf(
			seam,
			runIndex < 0 ? undefined : plan.runs[runIndex].settings,
			bar,
			held.get(runIndex < 0 ? firstRun(joint.id) : plan.runs[runIndex].id)
		);
		const r = entry.response;
		const left = runIndex < 0 || joint.response?.tendonForceN !== undefined ? 1 : residualOf(entry, runIndex);
		return {
			tendonForceN: left * r.tendonForceN,
			transverseShrinkageMm: r.transverseShrinkageMm,
			angularChangeRad: r.angularChangeRad,
			eccentricityMm: r.eccentricityMm,
			eccentricitySpreadMm: r.eccentricitySpreadMm,
			across: r.across,
			given: {
				force: joint.response?.tendonForceN !== undefined,
				shrinkage: joint.response?.transverseShrinkageMm !== undefined,
				angle: joint.response?.angularChangeRad !== undefined
			}
		};
	};
	// the order of joining does not hang on what the runs do, so how each seam is held can be worked out first
	const factors = new JoinFactors(condensed);
	const held = bendingStiffness(
		mesh.seams,
		condensed,
		eventsOf(plan, mesh.seams, condensed, () => NO_ACTIONS),
		factors
	);
	const events = eventsOf(plan, mesh.seams, condensed, actionsAt);
	const staged = stage(plan, mesh.seams, condensed, events, factors);
	const barContact: Analysis['barContact'] = () => {
		const out = new Map<string, { half: number; twice: number }>();
		for (const entry of used.values()) {
			if (!entry.bar || !entry.runs.size) continue;
			const at = (contactFactor: number) => forceOf(entry.input, `contact ${contactFactor}`, { contactFactor }) - 1;
			const change = { half: at(0.5), twice: at(2) };
			for (const run of entry.runs.keys()) out.set(run, change);
		}
		return out;
	};
	const restaged: Analysis['restaged'] = (stiffness) => {
		const compliance = condensed.compliance.slice();
		for (const rows of condensed.holdRows.values()) for (const r of rows) compliance[r] /= stiffness;
		return stage(plan, mesh.seams, { ...condensed, compliance }, events);
	};
	progress(0.95);

	const nominal = cache.outputs.map((o) => o.nodes.reduce<Vec3>((p, n, i) => add(p, scale(nodeAt(mesh.xyz, n), o.weights[i])), [0, 0, 0]));
	const middle = nominal.length ? (nominal.reduce<Vec3>((s, p) => add(s, scale(p, 1 / nominal.length)), [0, 0, 0]) as Vec3) : ([0, 0, 0] as Vec3);
	const whole = new RigidFit(nominal, middle);
	const displacements = (y: Float64Array): Vec3[] => whole.without(nominal.map((_, i): Vec3 => [y[3 * i], y[3 * i + 1], y[3 * i + 2]]));
	const outputIndex = (part: string, at: Vec2) => index.get(keyOf(part, at))!;
	const marks = new Map(staged.marks.map((m) => [m.id, m]));
	const combined = (mark: string, scales: Scales) => {
		const y = new Float64Array(condensed.outCount);
		marks.get(mark)!.byAction.forEach((v, a) => {
			for (let i = 0; i < y.length; i++) y[i] += scales[a] * v[i];
		});
		return y;
	};
	const own = new Map(
		plan.features.map((f) => {
			const list = featureKind(f)
				.places(f, plan)
				.map((p) => outputIndex(p.part, p.at));
			const points = list.map((i) => nominal[i]);
			const centre = points.reduce<Vec3>((s, q) => add(s, scale(q, 1 / points.length)), [0, 0, 0]);
			return [f.id, { list, points, fit: new RigidFit(points, centre) }];
		})
	);
	const featureAt: Analysis['featureAt'] = (feature, mark, scales, extra = []) => {
		const { list, points, fit } = own.get(feature.id)!;
		const sum = new Float64Array(3 * list.length);
		const put = (byAction: readonly Float64Array[], factor: number) => {
			for (let action = 0; action < ACTIONS.length; action++) {
				const f = factor * scales[action];
				const v = byAction[action];
				if (f !== 0 && v.length) for (let i = 0; i < list.length; i++) for (let d = 0; d < 3; d++) sum[3 * i + d] += f * v[3 * list[i] + d];
			}
		};
		put(marks.get(mark)!.byAction, 1);
		for (const [added, factor] of extra) put(added, factor);
		const u = list.map((_, i): Vec3 => [sum[3 * i], sum[3 * i + 1], sum[3 * i + 2]]);
		return read(feature, points, fit, u);
	};
	// rigid motion of the feature's own points, so that large free turns of a part do not read as form
	const read = (feature: AnyFeature, points: readonly Vec3[], fit: RigidFit, u: Vec3[]) =>
		featureKind(feature).moved(feature, points, fit.without(u));
	const sampler: Analysis['sampler'] = (feature, mark, parts) => {
		const { list, points, fit } = own.get(feature.id)!;
		const n = 3 * list.length;
		// taking the rigid motion out is linear: once for each part instead of once for each draw
		const seen = [marks.get(mark)!.byAction, ...parts].map((byAction) =>
			byAction.map((v) =>
				v.some((x) => x !== 0) ? Float64Array.from(fit.without(list.map((i): Vec3 => [v[3 * i], v[3 * i + 1], v[3 * i + 2]])).flat()) : undefined
			)
		);
		return (scales, more) => {
			const sum = new Float64Array(n);
			seen.forEach((byAction, k) =>
				byAction.forEach((v, action) => {
					const f = (k ? more[k - 1] : 1) * scales[action];
					if (v && f !== 0) for (let i = 0; i < n; i++) sum[i] += f * v[i];
				})
			);
			return featureKind(feature).moved(
				feature,
				points,
				list.map((_, i): Vec3 => [sum[3 * i], sum[3 * i + 1], sum[3 * i + 2]])
			);
		};
	};
	const valueOf: Analysis['valueOf'] = (feature, y) => {
		const { list, points, fit } = own.get(feature.id)!;
		return read(
			feature,
			points,
			fit,
			list.map((i): Vec3 => [y[3 * i], y[3 * i + 1], y[3 * i + 2]])
		);
	};
	return {
		plan,
		mesh,
		sheets,
		condensed,
		staged,
		events,
		responses: [...used.values()],
		heat: heat?.schedule,
		barContact,
		restaged,
		reused,
		outputs: cache.outputs,
		nominal,
		featureAt,
		sampler,
		valueOf,
		nominalValue: (f) => featureKind(f).nominal(own.get(f.id)!.points),
		displacements,
		outputIndex,
		combined,
		withoutRigid: drawingFit(mesh)
	};
}

function drawingFit(mesh: AssemblyMesh): Analysis['withoutRigid'] {
	const nodes = Array.from({ length: mesh.nodeCount }, (_, k) => nodeAt(mesh.xyz, k));
	const centre = nodes.reduce<Vec3>((s, p) => add(s, scale(p, 1 / nodes.length)), [0, 0, 0]);
	const fit = new RigidFit(nodes, centre);
	return (xyz) => {
		const u = nodes.map((p, k): Vec3 => [xyz[3 * k] - p[0], xyz[3 * k + 1] - p[1], xyz[3 * k + 2] - p[2]]);
		return Float32Array.from(fit.without(u).flat());
	};
}
