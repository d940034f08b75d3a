/** The linear analysis behind a forecast: mesh, condensed model, stages, and features as functions of the shop factors. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import type { Moment } from '../document/words';
import { multipliers } from '../factors/factors';
import { markOf } from '../features/whenComplete';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { HotFactors } from '../response/arcFactors';
import { findMaterial } from '../materials/grades';
import type { AssemblyMesh, MeshPoint } from '../mesh/assemblyMesh';
import { Assembly } from '../sequence/assembly';
import type { SheetMaterial } from '../shell/triangle';
import type { Condensed } from '../staging/condense';
import { eventsOf, NO_ACTIONS, type StageEvent } from '../staging/events';
import { bendingStiffness, JoinFactors } from '../staging/restraint';
import { stage, type Staged } from '../staging/stage';
import type { ForecastCache } from './cache';
import { drawingFit, FeatureReader, OutputPlaces, type Scales } from './readers';
import { weldOut, type Schedule } from './schedule';
import { SeamResponses, type UsedResponse } from './seamResponses';

export { ForecastCache } from './cache';
export type { Scales } from './readers';
export type { UsedResponse } from './seamResponses';

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
	/** the staging carried on with what is done to the finished piece: what each of `more` added is under its own name */
	carriedOn(more: readonly StageEvent[]): Staged;
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
	/** the mark that goes with a reading of a feature at a moment */
	markOf(feature: AnyFeature, moment: Moment): string;
	/** displacements of all output points, rigid motion of the whole taken out */
	displacements(y: Float64Array): Vec3[];
	outputIndex(part: string, at: Vec2): number;
	combined(mark: string, scales: Scales): Float64Array;
	/** displacement of every node from its place in the drawing, for positions now; best rigid motion taken out */
	withoutRigid(xyz: Float64Array): Float32Array;
}

/**
 * Multipliers on the actions from logarithms of the shop factors; the eccentric part goes with the force. @param placing standard
 * deviations by which the force lies elsewhere in the thickness than said @param sliding by which corners slide more than said
 */
export function scalesOf(log: ArrayLike<number>, placing = 0, sliding = 0): Scales {
	const m = multipliers(log);
	return [m.force, m.shrinkage, m.angle, m.force, 1, 1, m.force * placing, sliding];
}

export interface AnalyseOptions {
	progress?: (share: number) => void;
	/** put the heat that earlier runs have left beside each run into its force: takes the whole weld-out's heat first */
	warm?: boolean;
	/** what the moving arc says of each seam: run by run, place by place */
	hot?: HotFactors;
	/** hold-downs that are in the model but never put on: many sets can be weighed on one condensation */
	leaveOut?: ReadonlySet<string>;
}

export function analyse(
	complete: PlanDocument,
	cache: ForecastCache,
	{ progress = () => {}, warm = false, hot, leaveOut }: AnalyseOptions = {}
): Analysis {
	const plan = leaveOut?.size ? { ...complete, holdDowns: complete.holdDowns.filter((h) => !leaveOut.has(h.id)) } : complete;
	const sheets = plan.parts.map((p): SheetMaterial => {
		const m = findMaterial(p.material, plan.materials);
		return { eModulus: m.eModulus, poisson: m.poisson, thickness: p.thicknessMm };
	});
	const assembly = new Assembly(plan);
	const places = new OutputPlaces(plan);
	const { mesh, condensed, outputs, reused } = cache.pieceOf(complete, sheets, places.places, progress);
	progress(0.8);

	const heat = warm ? weldOut(plan, mesh) : undefined;
	// the order of joining does not hang on what the runs do, so how each seam is held can be worked out first
	const factors = new JoinFactors(condensed);
	const joining = eventsOf(plan, mesh.seams, condensed, () => NO_ACTIONS);
	const responses = new SeamResponses(plan, mesh, cache, bendingStiffness(mesh.seams, condensed, joining, factors), heat, hot);
	const events = eventsOf(plan, mesh.seams, condensed, responses.actionsAt);
	const staged = stage(plan, mesh.seams, condensed, events, factors);
	progress(0.95);

	const reader = new FeatureReader(plan, mesh, outputs, places, staged);
	return {
		plan,
		mesh,
		sheets,
		condensed,
		staged,
		events,
		responses: responses.used,
		heat: heat?.schedule,
		barContact: () => responses.barContact(),
		restaged(stiffness) {
			const compliance = condensed.compliance.slice();
			for (const rows of condensed.holdRows.values()) for (const r of rows) compliance[r] /= stiffness;
			return stage(plan, mesh.seams, { ...condensed, compliance }, events);
		},
		carriedOn: (more) => stage(plan, mesh.seams, condensed, [...events, ...more]),
		reused,
		outputs,
		nominal: reader.nominal,
		featureAt: (...args) => reader.featureAt(...args),
		sampler: (...args) => reader.sampler(...args),
		valueOf: (...args) => reader.valueOf(...args),
		nominalValue: (f) => reader.nominalValue(f),
		markOf: (f, moment) => markOf(f, moment, plan, assembly),
		displacements: (y) => reader.displacements(y),
		outputIndex: (part, at) => places.indexOf(part, at),
		combined: (mark, scales) => reader.combined(mark, scales),
		withoutRigid: drawingFit(mesh)
	};
}
