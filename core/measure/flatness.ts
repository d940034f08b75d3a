/** Flatness: least-squares plane and exact minimum zone. Points are [x, y, z] mm. */
import { symmetricEigen } from '../linalg/smallSymmetric';
import { convexHull } from './convexHull';
import { cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { Refusal } from '../refusal/refusal';

export interface Plane {
	centre: Vec3;
	/** unit */
	normal: Vec3;
}

export const centroid = (points: readonly Vec3[]): Vec3 => {
	const s: Vec3 = [0, 0, 0];
	for (const p of points) for (let d = 0; d < 3; d++) s[d] += p[d] / points.length;
	return s;
};

/** Eigenvectors of a symmetric 3 x 3 matrix by Jacobi turns; columns sorted by eigenvalue, smallest first. */
export function eigen3(a: number[][]): { values: number[]; vectors: Vec3[] } {
	const { values, vectors } = symmetricEigen(a.flat(), 3);
	const order = [0, 1, 2].sort((i, j) => values[i] - values[j]);
	return { values: order.map((i) => values[i]), vectors: order.map((i): Vec3 => [vectors[i], vectors[3 + i], vectors[6 + i]]) };
}

export function scatter(points: readonly Vec3[], c: Vec3): number[][] {
	const m = [
		[0, 0, 0],
		[0, 0, 0],
		[0, 0, 0]
	];
	for (const p of points) {
		const d = sub(p, c);
		for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m[i][j] += d[i] * d[j];
	}
	return m;
}

/** Orthogonal least-squares plane. @throws RangeError below three points */
export function bestPlane(points: readonly Vec3[]): Plane {
	if (points.length < 3) throw new Refusal(`A plane needs at least 3 points, ${points.length} given`);
	const centre = centroid(points);
	return { centre, normal: eigen3(scatter(points, centre)).vectors[0] };
}

/** Best plane of a grid row by row, its normal towards the side from which rows follow one another anticlockwise of columns (the part's front). */
function facingPlane(points: readonly Vec3[], nx: number): Plane {
	const plane = bestPlane(points);
	const front = cross(sub(points[nx - 1], points[0]), sub(points[points.length - nx], points[0]));
	return dot(plane.normal, front) < 0 ? { ...plane, normal: scale(plane.normal, -1) } : plane;
}

/** What a panel's own shape (a cross-break, a dish) stands over its plane by, towards its front: by place of a grid, mm. */
export function reliefOf(drawn: readonly Vec3[], nx: number): number[] {
	const { centre, normal } = facingPlane(drawn, nx);
	return drawn.map((p) => dot(sub(p, centre), normal));
}

/** A grid with its own shape taken off: what is left would be flat if the panel were as drawn, as a straightedge beside the crease finds. */
export function withoutRelief(points: readonly Vec3[], relief: readonly number[], nx: number): Vec3[] {
	if (relief.every((r) => Math.abs(r) < 1e-9)) return [...points];
	const { normal } = facingPlane(points, nx);
	return points.map((p, i) => sub(p, scale(normal, relief[i])));
}

/** Spread of the points along a direction, mm. */
export function widthAlong(points: readonly Vec3[], direction: Vec3): number {
	let lo = Infinity;
	let hi = -Infinity;
	for (const p of points) {
		const h = dot(p, direction);
		if (h < lo) lo = h;
		if (h > hi) hi = h;
	}
	return hi - lo;
}

/**
 * Minimum-zone flatness, mm: the least distance of two parallel planes that hold every point. Exact: the least width of the
 * convex hull is reached with one plane on a face, or with one edge on each plane (Houle & Toussaint 1988).
 */
export function minimumZone(points: readonly Vec3[]): number {
	const plane = bestPlane(points);
	const centre = plane.centre;
	const local = points.map((p) => sub(p, centre));
	const size = Math.max(...local.map(norm));
	const lsq = widthAlong(local, plane.normal);
	// flatter than rounding: the hull has no volume to work on
	if (!(lsq > 1e-9 * size)) return Math.max(0, lsq);
	// stretch the thin direction so that hull tolerances are those of a round body; faces and edges stay what they are
	const [e1, e2] = frameOf(plane.normal);
	const k = size / lsq;
	const body = local.map((p): [number, number, number] => [dot(p, e1), dot(p, e2), dot(p, plane.normal) * k]);
	const faces = hullFaces(body);
	let best = lsq;
	const edges = new Map<string, { ends: [number, number]; normals: Vec3[] }>();
	for (const f of faces) {
		const n = cross(sub(local[f[1]], local[f[0]]), sub(local[f[2]], local[f[0]]));
		if (norm(n) === 0) continue;
		const u = unit(n);
		best = Math.min(best, widthAlong(local, u));
		for (let i = 0; i < 3; i++) {
			const [a, b] = [f[i], f[(i + 1) % 3]];
			const key = a < b ? `${a}:${b}` : `${b}:${a}`;
			const e = edges.get(key);
			if (e) e.normals.push(u);
			else edges.set(key, { ends: [a, b], normals: [u] });
		}
	}
	const list = [...edges.values()];
	const vectors = list.map((e) => sub(local[e.ends[1]], local[e.ends[0]]));
	const tiny = (1e-12 * size * size) ** 2;
	// plain numbers in this double loop: it runs some thousand times a flatness, and a forecast takes hundreds of them
	for (let i = 0; i < list.length; i++) {
		const [ax, ay, az] = vectors[i];
		const from = local[list[i].ends[0]];
		for (let j = i + 1; j < list.length; j++) {
			const b = vectors[j];
			const nx = ay * b[2] - az * b[1];
			const ny = az * b[0] - ax * b[2];
			const nz = ax * b[1] - ay * b[0];
			const square = nx * nx + ny * ny + nz * nz;
			if (square < tiny) continue;
			const to = local[list[j].ends[0]];
			const reach = nx * (to[0] - from[0]) + ny * (to[1] - from[1]) + nz * (to[2] - from[2]);
			// only a pair whose two planes hold everything counts; the quick test first
			if (reach * reach >= best * best * square) continue;
			const length = Math.sqrt(square);
			const gap = Math.abs(reach) / length;
			if (widthAlong(local, [nx / length, ny / length, nz / length]) <= gap * (1 + 1e-9) + 1e-12 * size) best = gap;
		}
	}
	return best;
}

/** Tangents tried before the least of a line of tilts must have been found; a sheet of a few hundred points takes five to ten. */
const MOST_TANGENTS = 80;

/** A convex piecewise straight function at one place. */
interface Tangent {
	at: number;
	value: number;
	slope: number;
}

/** Where the tangents of either side meet, again and again: exact after finitely many. The value is NaN where it has not come to an end. */
function least<T extends Tangent>(f: (t: number) => T, lo: number, hi: number, close: number): { value: number; left: T; right: T } {
	let left = f(lo);
	let right = f(hi);
	if (left.slope >= 0) return { value: left.value, left, right: left };
	if (right.slope <= 0) return { value: right.value, left: right, right };
	for (let k = 0; k < MOST_TANGENTS; k++) {
		// every third time the middle, where tangents from far away creep along one side
		const meet = (right.value - left.value + left.slope * left.at - right.slope * right.at) / (left.slope - right.slope);
		const bound = left.value + left.slope * (meet - left.at);
		const t = f(k % 3 === 2 ? (left.at + right.at) / 2 : meet);
		if (Math.min(t.value, left.value, right.value) - bound <= close) return { value: Math.min(t.value, left.value, right.value), left, right };
		if (t.slope === 0) return { value: t.value, left: t, right: t };
		if (t.slope < 0) left = t;
		else right = t;
	}
	return { value: NaN, left, right };
}

/** Spread against half the points' width up to which heights stand for distances: above, the tilt would cost more than 1e-4. */
const THIN = 0.015;

/**
 * Minimum zone of a sheet that is nearly flat, mm: the least spread of heights over the best plane's tilt, a convex piecewise
 * straight function. Equal to `minimumZone` to 1e-4 of itself, and much quicker: forecasts take hundreds. A sheet that is
 * not nearly flat is given to `minimumZone`.
 */
export function thinZone(points: readonly Vec3[]): number {
	const { centre, normal } = bestPlane(points);
	const [e1, e2] = frameOf(normal);
	const n = points.length;
	const x = new Float64Array(n);
	const y = new Float64Array(n);
	const z = new Float64Array(n);
	let [rx, ry] = [0, 0];
	let [low, high] = [Infinity, -Infinity];
	points.forEach((p, i) => {
		const d = sub(p, centre);
		[x[i], y[i], z[i]] = [dot(d, e1), dot(d, e2), dot(d, normal)];
		rx = Math.max(rx, Math.abs(x[i]));
		ry = Math.max(ry, Math.abs(y[i]));
		low = Math.min(low, z[i]);
		high = Math.max(high, z[i]);
	});
	const spread = high - low;
	if (!(spread > 1e-12 * rx) || !(ry > 0)) return Math.max(0, spread);
	if (spread > THIN * Math.min(rx, ry)) return minimumZone(points);
	const close = 1e-7 * spread;
	/** the spread at one tilt, with its slopes along both */
	const zone = (a: number, b: number) => {
		let [lo, hi] = [Infinity, -Infinity];
		let [p, q] = [0, 0];
		for (let i = 0; i < n; i++) {
			const h = z[i] - a * x[i] - b * y[i];
			if (h < lo) {
				lo = h;
				p = i;
			}
			if (h > hi) {
				hi = h;
				q = i;
			}
		}
		return { at: b, value: hi - lo, slope: y[p] - y[q], along: x[p] - x[q] };
	};
	const [ta, tb] = [(2 * spread) / rx, (2 * spread) / ry];
	const { value } = least(
		(a) => {
			const line = least((b) => zone(a, b), -tb, tb, close / 10);
			const { left: l, right: r } = line;
			// the slope of the least: of the two tangents that meet there, mixed so that they are level across
			const mix = r.slope > l.slope ? r.slope / (r.slope - l.slope) : 1;
			return { at: a, value: line.value, slope: mix * l.along + (1 - mix) * r.along };
		},
		-ta,
		ta,
		close
	);
	return Number.isNaN(value) ? minimumZone(points) : value;
}

/** Facets of a body, or one where all points lie nearly on a line. The search walks without chance, so that the same points give the same facets. */
function hullFaces(points: readonly [number, number, number][]): number[][] {
	const far = (measure: (p: Vec3) => number) => points.reduce((best, p, i) => (measure(p) > measure(points[best]) ? i : best), 0);
	const a = 0;
	const b = far((p) => norm(sub(p, points[a])));
	const ab = sub(points[b], points[a]);
	const c = far((p) => norm(cross(ab, sub(p, points[a]))));
	const n = cross(ab, sub(points[c], points[a]));
	const d = far((p) => Math.abs(dot(n, sub(p, points[a]))));
	const volume = Math.abs(dot(n, sub(points[d], points[a])));
	// nearly on one line: the plane of its ends and of the point farthest from it will do
	if (!(volume > 1e-12 * norm(ab) ** 3)) return [[a, b, c]];
	const first = [a, b, c, d];
	return convexHull(points, [...first, ...points.map((_, i) => i).filter((i) => !first.includes(i))]);
}

export function frameOf(normal: Vec3): [Vec3, Vec3] {
	const helper: Vec3 = Math.abs(normal[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
	const e1 = unit(cross(helper, normal));
	return [e1, cross(normal, e1)];
}
