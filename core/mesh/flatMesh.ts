/** Triangulates one part's layout so that its outline, bends and given lines are edges of the mesh. */
import Constrainautor from '@kninnug/constrainautor';
import Delaunator from 'delaunator';
import { isInside, ringArea, segmentDistance } from '../geometry/polyline';
import { distance2, type Vec2 } from '../geometry/vec';
import { Refusal } from '../refusal/refusal';

/** Points closer than this are one point, mm. Far below any size a shop can cut, far above rounding. */
export const POINT_TOLERANCE_MM = 1e-3;

const SHEAR = 1e-6;

export interface FlatMesh {
	/** n x 2, mm */
	xy: Float64Array;
	/** m x 3 node indices, anticlockwise seen from the front */
	tri: Int32Array;
	/** Node at a point that was given as a hard point. @throws RangeError if there is none */
	nodeAt(point: Vec2): number;
	/** Node pairs "low:high" that lie on a bend, with the bend's index */
	bendEdges: Map<string, number>;
}

export const edgeKey = (a: number, b: number) => (a < b ? `${a}:${b}` : `${b}:${a}`);

interface Segment {
	a: Vec2;
	b: Vec2;
	/** index of the bend, or -1 */
	bend: number;
}

class PointSet {
	readonly points: Vec2[] = [];
	private readonly cells = new Map<string, number[]>();
	private cell(p: Vec2): [number, number] {
		return [Math.round(p[0] / (4 * POINT_TOLERANCE_MM)), Math.round(p[1] / (4 * POINT_TOLERANCE_MM))];
	}
	find(p: Vec2): number {
		const [i, j] = this.cell(p);
		for (let di = -1; di <= 1; di++)
			for (let dj = -1; dj <= 1; dj++)
				for (const k of this.cells.get(`${i + di},${j + dj}`) ?? []) if (distance2(this.points[k], p) <= POINT_TOLERANCE_MM) return k;
		return -1;
	}
	add(p: Vec2): number {
		const found = this.find(p);
		if (found >= 0) return found;
		const key = this.cell(p).join(',');
		const list = this.cells.get(key);
		const index = this.points.push(p) - 1;
		if (list) list.push(index);
		else this.cells.set(key, [index]);
		return index;
	}
}

const boxOf = (ring: readonly Vec2[]) => ({
	x0: Math.min(...ring.map((p) => p[0])),
	y0: Math.min(...ring.map((p) => p[1])),
	x1: Math.max(...ring.map((p) => p[0])),
	y1: Math.max(...ring.map((p) => p[1]))
});

/** Where two segments cross or touch, or undefined. */
function crossing(s: Segment, t: Segment): Vec2 | undefined {
	const d1: Vec2 = [s.b[0] - s.a[0], s.b[1] - s.a[1]];
	const d2: Vec2 = [t.b[0] - t.a[0], t.b[1] - t.a[1]];
	const det = d1[0] * d2[1] - d1[1] * d2[0];
	if (Math.abs(det) < 1e-12 * Math.hypot(...d1) * Math.hypot(...d2)) return undefined;
	const e: Vec2 = [t.a[0] - s.a[0], t.a[1] - s.a[1]];
	const u = (e[0] * d2[1] - e[1] * d2[0]) / det;
	const v = (e[0] * d1[1] - e[1] * d1[0]) / det;
	const slack = 1e-9;
	if (u < -slack || u > 1 + slack || v < -slack || v > 1 + slack) return undefined;
	return [s.a[0] + u * d1[0], s.a[1] + u * d1[1]];
}

/**
 * @param outline closed ring; @param holes closed rings; @param bends lines from edge to edge; @param lines polylines
 * whose points must be nodes; @param spots single points that must be nodes; @param size target triangle side, mm
 */
export function flatMesh(
	outline: readonly Vec2[],
	holes: readonly Vec2[][],
	bends: readonly [Vec2, Vec2][],
	lines: readonly Vec2[][],
	spots: readonly Vec2[],
	size: number
): FlatMesh {
	const set = new PointSet();
	const segments: Segment[] = [];
	const segment = (a: Vec2, b: Vec2, bend = -1) => {
		if (distance2(a, b) > POINT_TOLERANCE_MM) segments.push({ a, b, bend });
	};
	for (const ring of [outline, ...holes]) ring.forEach((p, i) => segment(p, ring[(i + 1) % ring.length]));
	bends.forEach(([a, b], k) => segment(a, b, k));
	for (const line of lines) for (let i = 1; i < line.length; i++) segment(line[i - 1], line[i]);

	const hard: Vec2[] = [...spots];
	for (const s of segments) hard.push(s.a, s.b);
	for (let i = 0; i < segments.length; i++)
		for (let j = i + 1; j < segments.length; j++) {
			const p = crossing(segments[i], segments[j]);
			if (p) hard.push(p);
		}
	// ends first, crossings after: a crossing that falls on an end takes the end's exact place
	const hardNodes = [...new Set(hard.map((p) => set.add(p)))];

	const edges = new Map<string, [number, number]>();
	const bendEdges = new Map<string, number>();
	for (const s of segments) {
		const length = distance2(s.a, s.b);
		const on = hardNodes
			.filter((k) => segmentDistance(set.points[k], s.a, s.b) <= POINT_TOLERANCE_MM)
			.map((k) => ({ k, at: distance2(set.points[k], s.a) }))
			.sort((p, q) => p.at - q.at);
		for (let i = 1; i < on.length; i++) {
			const gap = on[i].at - on[i - 1].at;
			const n = Math.max(1, Math.round(gap / size));
			let before = on[i - 1].k;
			for (let q = 1; q <= n; q++) {
				const f = (on[i - 1].at + (gap * q) / n) / length;
				const node = q === n ? on[i].k : set.add([s.a[0] + f * (s.b[0] - s.a[0]), s.a[1] + f * (s.b[1] - s.a[1])]);
				if (node !== before) {
					const key = edgeKey(before, node);
					edges.set(key, [before, node]);
					if (s.bend >= 0) bendEdges.set(key, s.bend);
				}
				before = node;
			}
		}
	}
	addInterior(set, [...edges.values()], outline, holes, size);

	const kept: number[] = [];
	// a square lattice leaves every diagonal a tie: a shear far below anything that shows settles them all the same way, and
	// keeps straight lines straight
	const count = set.points.length;
	const flat = new Float64Array(2 * (count + 4));
	set.points.forEach(([x, y], i) => flat.set([x + SHEAR * y, y], 2 * i));
	// a frame round it all keeps the outline off the hull, where points in line are trouble
	const box = boxOf(outline);
	const far = 2 * Math.max(box.x1 - box.x0, box.y1 - box.y0);
	flat.set([box.x0 - far, box.y0 - far, box.x1 + far, box.y0 - far, box.x1 + far, box.y1 + far, box.x0 - far, box.y1 + far], 2 * count);
	const net = new Delaunator(flat);
	const constrained = new Constrainautor(net);
	constrained.constrainAll([...edges.values()]);
	constrained.delaunify(true);
	for (let e = 0; e < net.triangles.length; e += 3) {
		const [a, b, c] = net.triangles.subarray(e, e + 3);
		if (Math.max(a, b, c) >= count) continue;
		const [p, q, r] = [set.points[a], set.points[b], set.points[c]];
		const area = ringArea([p, q, r]);
		if (Math.abs(area) < 1e-7 * size * size) continue;
		const middle: Vec2 = [(p[0] + q[0] + r[0]) / 3, (p[1] + q[1] + r[1]) / 3];
		if (!isInside(middle, outline) || holes.some((h) => isInside(middle, h))) continue;
		if (area > 0) kept.push(a, b, c);
		else kept.push(a, c, b);
	}
	return packed(set, kept, bendEdges);
}

/** A square lattice fitted to the outline's box, kept clear of every edge so that triangles stay well shaped. */
function addInterior(set: PointSet, edges: [number, number][], outline: readonly Vec2[], holes: readonly Vec2[][], size: number) {
	const { x0, y0, x1, y1 } = boxOf(outline);
	const [w, h] = [x1 - x0, y1 - y0];
	const nx = Math.max(1, Math.round(w / size));
	const ny = Math.max(1, Math.round(h / size));
	// edges in bins, so that each lattice point looks only at its neighbourhood
	const bin = 3 * size;
	const bins = new Map<string, [Vec2, Vec2][]>();
	for (const [a, b] of edges) {
		const p = set.points[a];
		const q = set.points[b];
		for (let i = Math.floor((Math.min(p[0], q[0]) - size - x0) / bin); i <= Math.floor((Math.max(p[0], q[0]) + size - x0) / bin); i++)
			for (let j = Math.floor((Math.min(p[1], q[1]) - size - y0) / bin); j <= Math.floor((Math.max(p[1], q[1]) + size - y0) / bin); j++) {
				const key = `${i},${j}`;
				const list = bins.get(key);
				if (list) list.push([p, q]);
				else bins.set(key, [[p, q]]);
			}
	}
	for (let i = 1; i < nx; i++)
		for (let j = 1; j < ny; j++) {
			const p: Vec2 = [x0 + (w * i) / nx, y0 + (h * j) / ny];
			const near = bins.get(`${Math.floor((p[0] - x0) / bin)},${Math.floor((p[1] - y0) / bin)}`) ?? [];
			if (near.some(([a, b]) => segmentDistance(p, a, b) < 0.55 * size)) continue;
			if (!isInside(p, outline) || holes.some((hole) => isInside(p, hole))) continue;
			set.add(p);
		}
}

/** Drops points no triangle uses (a spot in a hole, say) and renumbers. */
function packed(set: PointSet, tri: number[], bendEdges: Map<string, number>): FlatMesh {
	const index = new Int32Array(set.points.length).fill(-1);
	let n = 0;
	for (const k of tri) if (index[k] < 0) index[k] = n++;
	const xy = new Float64Array(2 * n);
	set.points.forEach((p, k) => index[k] >= 0 && xy.set(p, 2 * index[k]));
	const bends = new Map<string, number>();
	for (const [key, bend] of bendEdges) {
		const [a, b] = key.split(':').map(Number);
		if (index[a] >= 0 && index[b] >= 0) bends.set(edgeKey(index[a], index[b]), bend);
	}
	return {
		xy,
		tri: Int32Array.from(tri, (k) => index[k]),
		bendEdges: bends,
		nodeAt(point) {
			const k = set.find(point);
			if (k < 0 || index[k] < 0) throw new Refusal(`No mesh node at [${point.map((v) => v.toFixed(3)).join(', ')}]: the point is not on the part`);
			return index[k];
		}
	};
}
