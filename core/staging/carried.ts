/**
 * Parts that come on at a later step of the assembly are laid on the piece as it lies then, not as it is drawn. Until they are tacked they
 * go with it on springs too weak to carry anything, at a few places of the seams that they will share with it.
 */
import type { PlanDocument } from '../document/schema';
import { cross, distance, norm, sub, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import { JOINTS } from '../joints';
import { nodeAt } from '../shell/model';
import { Assembly } from '../sequence/assembly';

/** A place where a part rests on what stands: a node of each. */
export interface Rest {
	/** index of the part that comes on */
	part: number;
	/** index of the seam */
	seam: number;
	/** its node, and the node of the standing piece; offset of the first from the second as drawn is kept */
	own: number;
	standing: number;
}

/** A part whose place and angle its seams with the standing piece settle together: it is not held to a fit-up angle of any one of them. */
export interface LaidOn {
	part: number;
	/** indices of those seams, and on which side of each it is */
	seams: number[];
	sides: ('a' | 'b')[];
}

/** Rests that lie this near to one line, as a share of their spread, leave the part to swing about it. */
const ON_A_LINE = 0.03;

/** Parts laid on at a later step that their rests settle: a lid, a baffle; not a rib on one line. */
export function laidOn(plan: Pick<PlanDocument, 'parts' | 'joints' | 'fitUp'>, mesh: Pick<AssemblyMesh, 'parts' | 'seams' | 'xyz'>): LaidOn[] {
	const rests = restsOf(plan, mesh);
	return [...new Set(rests.map((r) => r.part))].flatMap((part): LaidOn[] => {
		const own = rests.filter((r) => r.part === part);
		if (isOnALine(own.map((r) => nodeAt(mesh.xyz, r.own)))) return [];
		const seams = [...new Set(own.map((r) => r.seam))];
		return [{ part, seams, sides: seams.map((k) => (mesh.seams[k].joint.a.part === mesh.parts[part].part.id ? 'a' : 'b')) }];
	});
}

/**
 * Which way a part that is laid on is pressed down where it is tacked, by hand or weight: along its own normal, where it lies on the
 * other's edge or face. A plate that stands on it is located, not pressed.
 */
export function pressedAlong(laid: readonly LaidOn[], seams: readonly SeamMesh[], k: number, i: number): Vec3 | undefined {
	const part = laid.find((p) => p.seams.includes(k));
	if (!part || !JOINTS[seams[k].joint.type].isLaidOn) return undefined;
	const frame = seams[k].frames[i];
	return part.sides[part.seams.indexOf(k)] === 'a' ? frame.normalA : frame.normalB;
}

function isOnALine(points: readonly Vec3[]): boolean {
	const far = points.reduce((best, p) => (distance(p, points[0]) > distance(best, points[0]) ? p : best), points[0]);
	const line = sub(far, points[0]);
	const size = norm(line);
	return !(size > 0) || points.every((p) => norm(cross(sub(p, points[0]), line)) / size < ON_A_LINE * size);
}

/** Of a seam's length, where it rests. */
const SHARES = [0.1, 0.5, 0.9];

/** @returns none where all comes on at once */
export function restsOf(plan: Pick<PlanDocument, 'parts' | 'joints' | 'fitUp'>, mesh: Pick<AssemblyMesh, 'parts' | 'seams'>): Rest[] {
	const assembly = new Assembly(plan);
	if (assembly.steps.length < 2) return [];
	const stepOf = mesh.parts.map((p) => assembly.ofParts([p.part.id]));
	const index = new Map(mesh.parts.map((p, i) => [p.part.id, i]));
	return mesh.seams.flatMap((seam, k): Rest[] => {
		const [a, b] = [index.get(seam.joint.a.part)!, index.get(seam.joint.b.part)!];
		if (stepOf[a] === stepOf[b]) return [];
		const onA = stepOf[a] > stepOf[b];
		const places = new Set(SHARES.map((f) => Math.round(f * (seam.stations.length - 1))));
		return [...places].map((i) => ({ part: onA ? a : b, seam: k, own: onA ? seam.a[i] : seam.b[i], standing: onA ? seam.b[i] : seam.a[i] }));
	});
}
