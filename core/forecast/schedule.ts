/** When each run is laid and how warm the metal is, from the heat of the whole piece: arc time, waits, bars, cooling to measure. */
import { blocksOf } from '../holds';
import { cross, distance, dot, norm, scale, sub } from '../geometry/vec';
import { arcEnergy } from '../heat/arcEnergy';
import { HeatSolver, weldOutHeat, type HeatedRun, type HeatNetwork } from '../heat/assembly';
import { findMaterial } from '../materials/grades';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { Bar, PlanDocument, WeldSettings } from '../document/schema';
import { STILL_AIR } from '../heat/air';
import { blockMetal, CONTACT_VALUES } from '../response/weldResponse';
import { nodeAt } from '../shell/model';
import { shareOfA } from '../staging/condense';

/** Between two runs: reposition, wire, helmet (own estimate), s. */
export const BETWEEN_RUNS_S = 15;
/** Cool enough to measure: this far above the shop's air, K (what is measured hot is not what you get cold). */
export const MEASURE_ABOVE_AIR = 10;

export interface RunTiming {
	run: string;
	/** s from the first arc */
	startS: number;
	arcS: number;
	waitS: number;
	/** metal at the run's start before its arc, °C */
	startC: number;
	/** hottest place on the run's length before its arc, °C */
	hottestC: number;
}

export interface Schedule {
	runs: RunTiming[];
	arcS: number;
	totalS: number;
	/** after the last arc, s */
	coolToMeasureS: number;
	/** runs whose length was still above the interpass limit after four hours */
	tooHot: string[];
	/** temperatures through the weld-out: s from the first arc, °C */
	curve: { times: number[]; hottest: number[] };
	bars: { bar: string; peakC: number; temperatures: number[] }[];
	/** |heat in - stored - lost| / heat in */
	energyError: number;
}

export function settingsOf(plan: PlanDocument, run: { joint: string; settings?: string }): WeldSettings {
	const joint = plan.joints.find((j) => j.id === run.joint)!;
	return plan.settings.find((s) => s.id === (run.settings ?? joint.settings))!;
}

/** Two nodes that a length of bar touches: both sheets at the seam, or the place beside it that lies nearest under a block's middle. */
function touched(seam: SeamMesh, i: number, bar: Bar, mesh: AssemblyMesh): [number, number] {
	const offset = bar.offsetMm ?? 0;
	if (Math.abs(offset) < bar.widthMm / 2) return [seam.a[i], seam.b[i]];
	const onA = offset < 0;
	const node = onA ? seam.a[i] : seam.b[i];
	const frame = seam.frames[i];
	const target = sub(nodeAt(mesh.xyz, node), scale(onA ? frame.outA : frame.outB, Math.abs(offset)));
	const part = mesh.parts.find((p) => p.part.id === (onA ? seam.joint.a : seam.joint.b).part)!;
	let best = node;
	for (let k = part.node0; k < part.node0 + part.flat.xy.length / 2; k++)
		if (distance(nodeAt(mesh.xyz, k), target) < distance(nodeAt(mesh.xyz, best), target)) best = k;
	return [best, best];
}

/** A bar as lengths between the seam's pairs; each touches both sheets there. */
function addBar(net: { capacity: number[]; loss: number[]; ties: HeatNetwork['ties'] }, bar: Bar, mesh: AssemblyMesh): number[] {
	const seam = mesh.seams.find((s) => s.joint.id === bar.joint)!;
	const metal = blockMetal(bar);
	const out: number[] = [];
	let last = -1;
	seam.stations.forEach((station, i) => {
		const [lo, hi] = [Math.max(seam.reach[i][0], bar.fromMm), Math.min(seam.reach[i][1], bar.toMm)];
		if (hi - lo <= 1e-9) return;
		const length = hi - lo;
		const id = net.capacity.push(metal.rhoC * bar.widthMm * bar.thicknessMm * length) - 1;
		net.loss.push(STILL_AIR * (bar.widthMm + 2 * bar.thicknessMm) * length);
		const contact = CONTACT_VALUES[bar.contact] * bar.widthMm * length;
		for (const node of touched(seam, i, bar, mesh)) net.ties.push({ i: node, j: id, conductance: contact / 2 });
		if (last >= 0)
			net.ties.push({
				i: last,
				j: id,
				conductance: (metal.conductivity * bar.widthMm * bar.thicknessMm) / Math.max(1, station - seam.stations[i - 1])
			});
		last = id;
		out.push(id);
	});
	return out;
}

function network(plan: PlanDocument, mesh: AssemblyMesh) {
	const n = mesh.nodeCount;
	const capacity = new Array<number>(n).fill(0);
	const loss = new Array<number>(n).fill(0);
	const ties = new Map<string, { i: number; j: number; conductance: number }>();
	const tie = (i: number, j: number, conductance: number) => {
		const key = i < j ? `${i}/${j}` : `${j}/${i}`;
		const t = ties.get(key);
		if (t) t.conductance += conductance;
		else ties.set(key, { i, j, conductance });
	};
	for (let e = 0; e < mesh.triPart.length; e++) {
		const part = plan.parts[mesh.triPart[e]];
		const { lambda, rhoC } = findMaterial(part.material, plan.materials).responsePair;
		const k = [0, 1, 2].map((i) => mesh.tri[3 * e + i]);
		const p = k.map((q) => nodeAt(mesh.xyz, q));
		const area = norm(cross(sub(p[1], p[0]), sub(p[2], p[0]))) / 2;
		for (let i = 0; i < 3; i++) {
			capacity[k[i]] += (area * part.thicknessMm * rhoC) / 3;
			loss[k[i]] += (2 * STILL_AIR * area) / 3;
			// linear triangle: conductance of a side is lambda t cot(opposite angle) / 2
			const [a, b, c] = [p[i], p[(i + 1) % 3], p[(i + 2) % 3]];
			const [u, v] = [sub(b, a), sub(c, a)];
			const cot = dot(u, v) / norm(cross(u, v));
			tie(k[(i + 1) % 3], k[(i + 2) % 3], (lambda * part.thicknessMm * cot) / 2);
		}
	}
	for (const seam of mesh.seams) {
		const thickness = Math.min(...[seam.joint.a.part, seam.joint.b.part].map((id) => plan.parts.find((p) => p.id === id)!.thicknessMm));
		const part = plan.parts.find((p) => p.id === seam.joint.a.part)!;
		const { lambda } = findMaterial(part.material, plan.materials).responsePair;
		// a welded seam conducts like a millimetre of its thinner sheet
		seam.a.forEach((a, i) => a !== seam.b[i] && tie(a, seam.b[i], lambda * thickness * (seam.reach[i][1] - seam.reach[i][0])));
	}
	return { capacity, loss, ties: [...ties.values()] };
}

export const schedule = (plan: PlanDocument, mesh: AssemblyMesh): Schedule => weldOut(plan, mesh).schedule;

/** Times the still-air film under a fan over the piece, and where cold air or a wet cloth is held on the run's own place (own estimates). */
export const FAN_FILM = 3;
export const LOCAL_FILM = 10;
const FILMS = { still: undefined, fan: { all: FAN_FILM, own: FAN_FILM }, local: { all: 1, own: LOCAL_FILM } } as const;

interface Piece {
	solver: HeatSolver;
	bars: { id: string; cells: number[] }[];
}
/** By mesh: an edit of order, tacks or settings leaves the network as it is, and its factors with it. */
const pieces = new WeakMap<AssemblyMesh, Piece & { key: string }>();

function heatedPiece(plan: PlanDocument, mesh: AssemblyMesh): Piece {
	const blocks = blocksOf(plan);
	const key = JSON.stringify([plan.parts.map((p) => [p.material, p.thicknessMm]), plan.materials, plan.ambientC, blocks]);
	const known = pieces.get(mesh);
	if (known?.key === key) return known;
	const net = network(plan, mesh);
	// a table lies behind several seams: one line of it all the same
	const cellsOf = new Map<string, number[]>();
	for (const h of blocks) cellsOf.set(h.id, [...(cellsOf.get(h.id) ?? []), ...addBar(net, h, mesh)]);
	const bars = [...cellsOf].map(([id, cells]) => ({ id, cells }));
	const made = {
		key,
		bars,
		solver: new HeatSolver({ capacity: Float64Array.from(net.capacity), loss: Float64Array.from(net.loss), ties: net.ties, ambientC: plan.ambientC })
	};
	pieces.set(mesh, made);
	return made;
}

/** The piece as a network of heat, and what each run puts in where. */
export function heatProblem(plan: PlanDocument, mesh: AssemblyMesh): { solver: HeatSolver; runs: HeatedRun[]; bars: Piece['bars'] } {
	const { solver, bars } = heatedPiece(plan, mesh);
	const runs = plan.runs.map((run): HeatedRun => {
		const seam = mesh.seams.find((s) => s.joint.id === run.joint)!;
		const settings = settingsOf(plan, run);
		const [lo, hi] = [Math.min(run.fromMm, run.toMm), Math.max(run.fromMm, run.toMm)];
		const share = shareOfA(plan, seam);
		const order = [...seam.stations.keys()];
		if (run.toMm < run.fromMm) order.reverse();
		const places = order.flatMap((i) => {
			const part = Math.max(0, Math.min(seam.reach[i][1], hi) - Math.max(seam.reach[i][0], lo)) / (hi - lo);
			return part > 1e-9
				? [
						{ at: seam.a[i], share: part * share },
						{ at: seam.b[i], share: part * (1 - share) }
					]
				: [];
		});
		return {
			id: run.id,
			places,
			heat: arcEnergy(settings).netHeat * (hi - lo),
			arcS: (hi - lo) / settings.speedMmPerS,
			pauseS: BETWEEN_RUNS_S,
			waitS: run.waitBeforeS,
			limitC: plan.interpassLimitC,
			film: FILMS[run.cooling ?? 'still']
		};
	});
	return { solver, runs, bars };
}

/**
 * What the other seams bring to one: °C of every place just before each of its own runs' arcs, from the heat of the others' runs alone since
 * the run of its own before. Heat is linear here, so what came earlier has only to be followed on. @param waits s before each run of the plan
 */
export function heatOfOthers(plan: PlanDocument, mesh: AssemblyMesh, joint: string, waits: readonly number[]): Float32Array[] {
	const { solver, runs } = heatProblem(plan, mesh);
	const isOwn = plan.runs.map((r) => r.joint === joint);
	const { startFields } = weldOutHeat(
		solver,
		runs.map((r, i) => ({ ...r, heat: isOwn[i] ? 0 : r.heat, waitS: waits[i], isFromNew: isOwn[i] })),
		[],
		Infinity
	);
	return startFields.filter((_, i) => isOwn[i]);
}

/**
 * The same with what came before the seam's own runs counted too: all the heat there was, less what the seam's own runs gave. Heat is linear
 * here, and its own has to be followed no longer than from its first run to its last. @param whole the weld-out of the whole plan
 */
export function withoutOwnHeat(plan: PlanDocument, mesh: AssemblyMesh, joint: string, whole: ReturnType<typeof weldOut>): Float32Array[] {
	const { solver, runs } = heatProblem(plan, mesh);
	const own = plan.runs.flatMap((r, i) => (r.joint === joint ? [i] : []));
	const [first, last] = [own[0], own[own.length - 1]];
	const alone = weldOutHeat(
		solver,
		runs.slice(first, last + 1).map((r, k) => ({
			...r,
			heat: plan.runs[first + k].joint === joint ? r.heat : 0,
			waitS: whole.schedule.runs[first + k].waitS
		})),
		[],
		Infinity
	);
	return own.map((i) => whole.startFields[i].map((c, node) => c - (alone.startFields[i - first][node] - plan.ambientC)));
}

/** The schedule, and the temperature of every mesh node just before each run's arc (°C, by run in order). */
export function weldOut(plan: PlanDocument, mesh: AssemblyMesh): { schedule: Schedule; startFields: Float32Array[] } {
	const { solver, runs, bars } = heatProblem(plan, mesh);
	const watched = bars.flatMap((b) => b.cells);
	const heat = weldOutHeat(solver, runs, watched, plan.ambientC + MEASURE_ABOVE_AIR);
	let first = 0;
	const result: Schedule = {
		runs: heat.runs.map(({ run, startS, arcS, waitS, startC, hottestC }) => ({ run, startS, arcS, waitS, startC, hottestC })),
		arcS: heat.arcS,
		totalS: heat.totalS,
		coolToMeasureS: heat.coolS,
		tooHot: heat.runs.filter((r) => !r.limitReached).map((r) => r.run),
		curve: { times: heat.times, hottest: heat.hottest },
		bars: bars.map((b) => {
			const cells = b.cells.map((_, i) => first + i);
			first += b.cells.length;
			return {
				bar: b.id,
				peakC: Math.max(plan.ambientC, ...cells.map((i) => heat.watchedPeak[i])),
				temperatures: heat.times.map((_, k) => Math.max(plan.ambientC, ...cells.map((i) => heat.watched[i][k])))
			};
		}),
		energyError: heat.energyError
	};
	return { schedule: result, startFields: heat.startFields };
}
