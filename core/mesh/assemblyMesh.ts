/** The whole piece as one shell mesh: every part meshed and formed, with seam node pairs found. */
import { holdKind } from '../holds';
import type { Spot } from '../holds/hold';
import { isClosed, pathLength, pointAt, ringArea, segmentDistance } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Joint, Part, PlanDocument } from '../document/schema';
import { flatMesh, POINT_TOLERANCE_MM } from './flatMesh';
import { crossingOf, form } from './fold';
import type { PartMesh, PartsMesh } from './partsMesh';
import { seamMesh, type SeamMesh } from './seamMesh';
import { Refusal } from '../refusal/refusal';

/** Above this many nodes the linear method is refused; 6 freedoms a node. */
export const NODE_LIMIT = 10_000;
/** Chosen so that a piece of ordinary size comes to about 8,000 freedoms. */
const TARGET_NODES = 1250;

/** The whole piece: its parts and the seams between them. */
export interface AssemblyMesh extends PartsMesh {
	seams: SeamMesh[];
}

export const layoutBox = (outline: readonly Vec2[]) => {
	const xs = outline.map((p) => p[0]);
	const ys = outline.map((p) => p[1]);
	return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
};

export const basePoint = (part: Part): Vec2 => {
	if (part.base) return part.base;
	const b = layoutBox(part.outline);
	return [(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2];
};

/** Single places that hold-downs hold. */
const heldSpots = (plan: PlanDocument): Spot[] => plan.holdDowns.flatMap((h) => holdKind(h).spots(h, plan));

/** Triangle side for a plan, mm: asked for, or from the area. */
export function meshSize(plan: PlanDocument): number {
	if (plan.meshSizeMm) return plan.meshSizeMm;
	let area = 0;
	for (const part of plan.parts) {
		const b = layoutBox(part.outline);
		area += (b.x1 - b.x0) * (b.y1 - b.y0);
	}
	return Math.max(2, Math.sqrt(area / TARGET_NODES));
}

/** Triangle side for one part, mm: finer than the plan's where the part is small, unless one size was asked for. */
function partSize(part: Part, plan: PlanDocument, sizeMm: number): number {
	if (plan.meshSizeMm) return sizeMm;
	const b = layoutBox(part.outline);
	return Math.max(2, sizeMm / FINEST, Math.min(sizeMm, (b.x1 - b.x0) / 3, (b.y1 - b.y0) / 3));
}

/** A small part's triangles are at most this much smaller than the plan's: seams carry the finer pitch on both sides. */
const FINEST = 2;

/** A curve drawn in chords: between its corners the two sheets lie a little apart, so only the corners can be stations. */
const CHORDS = 8;

const tackShares = (plan: PlanDocument, joint: Joint): number[] => {
	if (Math.max(joint.a.path.length, joint.b.path.length) > CHORDS) return [];
	const length = pathLength(joint.a.path);
	return plan.tacks.filter((t) => t.joint === joint.id).map((t) => t.stationMm / length);
};

/** A seam has at least this many lengths between pairs, however short it is. */
const LEAST_LENGTHS = 8;

/** A tack this near another station of its seam is taken to sit there, mm. */
const TACK_SNAP_MM = 2;

/** Stations along a seam: tacks, both sides' corners and what else must be one (shares of the length), with the gaps between divided to about `size`. Shares of the length, 0 to 1. */
export function seamStations(joint: Joint, size: number, also: readonly number[] = [], tacks: readonly number[] = []): number[] {
	const corners = new Set<number>([0, 1, ...also]);
	for (const side of [joint.a, joint.b]) {
		const total = pathLength(side.path);
		let at = 0;
		for (let i = 1; i < side.path.length - 1; i++) {
			at += Math.hypot(side.path[i][0] - side.path[i - 1][0], side.path[i][1] - side.path[i - 1][1]);
			corners.add(at / total);
		}
	}
	const length = pathLength(joint.a.path);
	const sorted = [...corners].sort((p, q) => p - q).filter((s, i, list) => i === 0 || (s - list[i - 1]) * length > 0.5);
	sorted[sorted.length - 1] = 1;
	// a tack holds where it is and not at the nearest place of the mesh: what it leaves free at a corner decides a good deal
	for (const t of tacks) if (t > 0 && t < 1 && sorted.every((s) => Math.abs(s - t) * length > TACK_SNAP_MM)) sorted.push(t);
	sorted.sort((p, q) => p - q);
	const out = [0];
	for (let i = 1; i < sorted.length; i++) {
		const n = Math.max(1, Math.round(((sorted[i] - sorted[i - 1]) * length) / size));
		for (let q = 1; q <= n; q++) out.push(q === n ? sorted[i] : sorted[i - 1] + ((sorted[i] - sorted[i - 1]) * q) / n);
	}
	return out;
}

/**
 * Shares of a side's length where something else of its part touches or crosses it: another seam, a bend, a crease, a hole's or
 * the outline's corner. The mesh has a node there, so the seam must have a pair.
 */
function touches(side: Joint['a'], joint: Joint, plan: PlanDocument): number[] {
	const part = plan.parts.find((p) => p.id === side.part)!;
	const lines: (readonly Vec2[])[] = [
		...[part.outline, ...part.holes].map((r) => [...r, r[0]]),
		...part.bends.map((b) => [b.from, b.to]),
		...(part.crossBreaks ?? []).flatMap((b) => b.corners.map((c) => [c, crossingOf(b)])),
		...plan.joints.flatMap((j) => (j.id === joint.id ? [] : [j.a, j.b].flatMap((s) => (s.part === part.id ? [s.path] : []))))
	];
	const total = pathLength(side.path);
	const out: number[] = [];
	let before = 0;
	for (let i = 1; i < side.path.length; i++) {
		const [p, q] = [side.path[i - 1], side.path[i]];
		const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
		const put = (share: number) => {
			const at = (before + share * length) / total;
			if (at > 1e-6 && at < 1 - 1e-6) out.push(at);
		};
		for (const line of lines)
			for (let k = 1; k < line.length; k++) {
				const [a, b] = [line[k - 1], line[k]];
				for (const end of [a, b]) if (segmentDistance(end, p, q) < POINT_TOLERANCE_MM) put(Math.hypot(end[0] - p[0], end[1] - p[1]) / length);
				const det = (q[0] - p[0]) * (b[1] - a[1]) - (q[1] - p[1]) * (b[0] - a[0]);
				if (Math.abs(det) < 1e-9 * length * Math.hypot(b[0] - a[0], b[1] - a[1])) continue;
				const u = ((a[0] - p[0]) * (b[1] - a[1]) - (a[1] - p[1]) * (b[0] - a[0])) / det;
				const v = ((a[0] - p[0]) * (q[1] - p[1]) - (a[1] - p[1]) * (q[0] - p[0])) / det;
				if (u > -1e-9 && u < 1 + 1e-9 && v > -1e-9 && v < 1 + 1e-9) put(u);
			}
		before += length;
	}
	return out;
}

const tooLarge = (size: number, fits: number) =>
	`This piece needs more than ${NODE_LIMIT} mesh nodes at a mesh size of ${size.toFixed(1)} mm: set a mesh size of about ${Math.ceil(fits)} mm or more`;

/** @throws RangeError in the planner's words where a part cannot be meshed or the model would be too large */
export function assemblyMesh(plan: PlanDocument): AssemblyMesh {
	const sizeMm = meshSize(plan);
	const sizes = new Map(plan.parts.map((p) => [p.id, partSize(p, plan, sizeMm)]));
	const expected = plan.parts.reduce((n, p) => n + Math.abs(ringArea(p.outline)) / sizes.get(p.id)! ** 2, 0);
	// seen before any meshing: a far too fine mesh would take minutes only to be refused
	if (expected > NODE_LIMIT) throw new Refusal(tooLarge(sizeMm, sizeMm * Math.sqrt((1.3 * expected) / NODE_LIMIT)));
	const stations = new Map(
		plan.joints.map((j) => {
			// the finer sheet sets the pitch: between two pairs there must be no other node. A small socket still gets enough to go round
			const pitch = Math.min(sizes.get(j.a.part)!, sizes.get(j.b.part)!);
			return [
				j.id,
				seamStations(
					j,
					plan.meshSizeMm ? pitch : Math.min(pitch, pathLength(j.a.path) / LEAST_LENGTHS),
					[...touches(j.a, j, plan), ...touches(j.b, j, plan)],
					tackShares(plan, j)
				)
			];
		})
	);
	const parts: PartMesh[] = [];
	const xyzs: Float64Array[] = [];
	const tris: number[] = [];
	const triPart: number[] = [];
	const triPanel: number[] = [];
	const lines = new Map<string, Int32Array>();
	const spots = new Map<string, number>();
	let nodeCount = 0;
	const linePoints = (path: readonly Vec2[], shares: readonly number[]) => {
		const length = pathLength(path);
		return shares.map((f) => pointAt(path, f * length));
	};
	plan.parts.forEach((part, index) => {
		const hardLines: Vec2[][] = [];
		for (const joint of plan.joints)
			for (const side of [joint.a, joint.b]) if (side.part === part.id) hardLines.push(linePoints(side.path, stations.get(joint.id)!));
		for (const b of part.crossBreaks ?? []) for (const corner of b.corners) hardLines.push([corner, crossingOf(b)]);
		const own = plan.holdDowns.filter((h) => holdKind(h).parts(h).includes(part.id));
		const backs = own.flatMap((h) => {
			const line = holdKind(h).line(h);
			return line ? [{ id: h.id, points: linePoints(line.path, evenShares(pathLength(line.path), line.pitchMm)) }] : [];
		});
		hardLines.push(...backs.map((b) => b.points));
		const supports = heldSpots(plan).filter((s) => s.part === part.id);
		const flat = flatMesh(
			part.outline,
			part.holes,
			part.bends.map((b) => [b.from, b.to]),
			hardLines,
			supports.map((s) => s.at),
			sizes.get(part.id)!
		);
		const n = flat.xy.length / 2;
		if (n === 0) throw new Refusal(`Part “${part.name}” came out with no triangles: check its outline`);
		if (nodeCount + n > NODE_LIMIT) throw new Refusal(tooLarge(sizeMm, sizeMm * 1.3));
		const formed = form(flat, part, basePoint(part));
		for (const b of backs)
			lines.set(
				b.id,
				Int32Array.from(b.points, (p) => flat.nodeAt(p) + nodeCount)
			);
		for (const s of supports) spots.set(s.id, flat.nodeAt(s.at) + nodeCount);
		parts.push({ part, node0: nodeCount, tri0: tris.length / 3, flat, panelCount: formed.panelCount });
		for (const k of flat.tri) tris.push(k + nodeCount);
		for (const p of formed.panel) {
			triPart.push(index);
			triPanel.push(p);
		}
		xyzs.push(formed.xyz);
		nodeCount += n;
	});
	const xyz = new Float64Array(3 * nodeCount);
	parts.forEach((p, i) => xyz.set(xyzs[i], 3 * p.node0));
	const mesh: AssemblyMesh = {
		sizeMm,
		nodeCount,
		xyz,
		tri: Int32Array.from(tris),
		triPart: Int32Array.from(triPart),
		triPanel: Int32Array.from(triPanel),
		parts,
		seams: [],
		lines,
		spots
	};
	for (const joint of plan.joints) {
		const shares = stations.get(joint.id)!;
		const closed = isClosed(joint.a.path) && isClosed(joint.b.path);
		const nodes = (side: Joint['a']) => {
			const part = parts.find((p) => p.part.id === side.part)!;
			return Int32Array.from(linePoints(side.path, shares), (p) => part.flat.nodeAt(p) + part.node0);
		};
		mesh.seams.push(seamMesh(joint, shares, nodes(joint.a), nodes(joint.b), closed, mesh));
	}
	return mesh;
}

const evenShares = (length: number, pitch: number) => {
	const n = Math.max(1, Math.round(length / pitch));
	return Array.from({ length: n + 1 }, (_, i) => i / n);
};

/** A point of a part in terms of the mesh: three nodes and their weights. */
export interface MeshPoint {
	nodes: [number, number, number];
	weights: [number, number, number];
}

/** Finds the triangle that holds a layout point; a point just outside takes the nearest triangle. @throws RangeError beyond half a triangle */
export function locate(mesh: AssemblyMesh, partId: string, at: Vec2): MeshPoint {
	const p = mesh.parts.find((q) => q.part.id === partId);
	if (!p) throw new Refusal(`Part “${partId}” is not in this plan`);
	const { xy, tri } = p.flat;
	let best: MeshPoint | undefined;
	let worst = -Infinity;
	for (let e = 0; e < tri.length; e += 3) {
		const [a, b, c] = [tri[e], tri[e + 1], tri[e + 2]];
		const det = (xy[2 * b] - xy[2 * a]) * (xy[2 * c + 1] - xy[2 * a + 1]) - (xy[2 * c] - xy[2 * a]) * (xy[2 * b + 1] - xy[2 * a + 1]);
		const wb = ((at[0] - xy[2 * a]) * (xy[2 * c + 1] - xy[2 * a + 1]) - (xy[2 * c] - xy[2 * a]) * (at[1] - xy[2 * a + 1])) / det;
		const wc = ((xy[2 * b] - xy[2 * a]) * (at[1] - xy[2 * a + 1]) - (at[0] - xy[2 * a]) * (xy[2 * b + 1] - xy[2 * a + 1])) / det;
		const low = Math.min(wb, wc, 1 - wb - wc);
		if (low > worst) {
			worst = low;
			best = { nodes: [a + p.node0, b + p.node0, c + p.node0], weights: [1 - wb - wc, wb, wc] };
			if (low >= 0) break;
		}
	}
	if (!best || worst < -0.5) throw new Refusal(`Point [${at.map((v) => v.toFixed(1)).join(', ')}] is not on part “${p.part.name}”`);
	return best;
}
