/**
 * Heat that other seams have left where an arc is about to go: temperatures just before each of a seam's arcs, along the seam and away from
 * it, of what the others have brought since its arc before; rounded, so that like seams share an answer.
 */
import type { PlanDocument, Run } from '../document/schema';
import { profileAt, residualProfile, type ResidualProfile } from '../forecast/residual';
import { heatOfOthers, heatProblem, weldOut } from '../forecast/schedule';
import { RISE_MATTERS, ROUNDED_K } from '../forecast/seamResponses';
import { pathLength } from '../geometry/polyline';
import { blocksOf } from '../holds';
import type { AssemblyMesh } from '../mesh/assemblyMesh';

/** In °C; what it adds is what lies above the air. */
export interface Warmth {
	/** mm along the seam, middles of equal stretches */
	atMm: number[];
	/** °C by place along, away from the seam on A and on B */
	profiles: Pick<ResidualProfile, 'sides'>[];
	/** °C of the bar under it */
	barC: number;
}

/** Equal stretches of a seam by which its warmth is told, and the least of one, mm: the piece's own mesh is no finer. */
const STRETCHES = 5;
const LEAST_MM = 40;
/** One sheet stands for both where they differ by no more than this, K. */
const ALIKE_K = 40;

/** Nothing for a run that no heat worth a word has come to since the one before. */
export type WarmthByRun = readonly (Warmth | undefined)[];

/** By seam, by its own runs in their order: what other seams have brought since the run before; all that they have, for the first. */
export function warmthOf(plan: PlanDocument, mesh: AssemblyMesh): Map<string, WarmthByRun> {
	const out = new Map<string, WarmthByRun>();
	const { startFields, schedule } = weldOut(plan, mesh);
	const waits = schedule.runs.map((r) => r.waitS);
	const { bars } = heatProblem(plan, mesh);
	for (const joint of plan.joints) {
		const own = plan.runs.flatMap((r, i) => (r.joint === joint.id ? [i] : []));
		if (!own.length) continue;
		const isAtOnce = own[own.length - 1] - own[0] < own.length;
		const fields = isAtOnce ? [startFields[own[0]]] : heatOfOthers(plan, mesh, joint.id, waits);
		const cells = bars.find(({ id }) => blocksOf(plan).some((b) => b.id === id && b.joint === joint.id))?.cells ?? [];
		const byRun = fields.map((field, k) => toldOf(plan, mesh, plan.runs[own[k]], field, cells));
		if (byRun.some(Boolean)) out.set(joint.id, byRun);
	}
	return out;
}

/** A field as it is told of a run's seam: in stretches along it, rounded. @param cells of the bar under it */
function toldOf(plan: PlanDocument, mesh: AssemblyMesh, run: Run, field: Float32Array, cells: readonly number[]): Warmth | undefined {
	const lengthMm = pathLength(plan.joints.find((j) => j.id === run.joint)!.a.path);
	const n = Math.max(1, Math.min(STRETCHES, Math.floor(lengthMm / LEAST_MM)));
	const stretches = Array.from({ length: n }, (_, i) =>
		residualProfile(mesh, { ...run, fromMm: (lengthMm * i) / n, toMm: (lengthMm * (i + 1)) / n }, field, plan.ambientC)
	);
	if (stretches.every((p) => p.rise <= RISE_MATTERS)) return undefined;
	const rounded = (c: number) => plan.ambientC + ROUNDED_K * Math.round((c - plan.ambientC) / ROUNDED_K);
	return {
		atMm: stretches.map((_, i) => (lengthMm * (i + 0.5)) / n),
		profiles: stretches.map(({ sides: [a, b] }) => ({ sides: [a.map(rounded), b.map(rounded)] })),
		barC: cells.length ? rounded(cells.reduce((sum, k) => sum + field[k], 0) / cells.length) : plan.ambientC
	};
}

/** Both sheets are as warm as each other, as far as one can stand for both. */
export const isEven = ({ profiles }: Warmth): boolean => profiles.every(({ sides: [a, b] }) => a.every((c, k) => Math.abs(c - b[k]) <= ALIKE_K));

/** °C at a place along the seam, so far from it on its A or its B sheet; where one sheet stands for both, the mean of both. */
export function warmthAt(w: Warmth, alongMm: number, fromSeamMm: number, side: 'A' | 'B' | 'both'): number {
	const { atMm } = w;
	const of = (i: number): number => {
		const at = profileAt(w.profiles[i]);
		const [a, b] = [at(-fromSeamMm), at(fromSeamMm)];
		return side === 'both' ? (a + b) / 2 : side === 'A' ? a : b;
	};
	const next = atMm.findIndex((v) => v >= alongMm);
	if (next < 0) return of(atMm.length - 1);
	if (next === 0) return of(0);
	const share = (alongMm - atMm[next - 1]) / (atMm[next] - atMm[next - 1]);
	return (1 - share) * of(next - 1) + share * of(next);
}
