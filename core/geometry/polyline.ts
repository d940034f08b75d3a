/** Polylines and polygons in a part's layout. Points are [x, y] mm. */
import { distance2, type Vec2 } from './vec';

export const isClosed = (path: readonly Vec2[]) => path.length > 2 && distance2(path[0], path[path.length - 1]) < 1e-6;

/** Length along a polyline, mm. */
export function pathLength(path: readonly Vec2[]): number {
	let length = 0;
	for (let i = 1; i < path.length; i++) length += distance2(path[i - 1], path[i]);
	return length;
}

/** The point `station` mm along the path; the ends are not passed. */
export function pointAt(path: readonly Vec2[], station: number): Vec2 {
	let left = station;
	for (let i = 1; i < path.length; i++) {
		const step = distance2(path[i - 1], path[i]);
		if (left <= step || i === path.length - 1) {
			const f = step > 0 ? Math.min(1, Math.max(0, left / step)) : 0;
			return [path[i - 1][0] + f * (path[i][0] - path[i - 1][0]), path[i - 1][1] + f * (path[i][1] - path[i - 1][1])];
		}
		left -= step;
	}
	return path[0];
}

/** Signed area, positive when the ring runs anticlockwise, mm2. */
export function ringArea(ring: readonly Vec2[]): number {
	let twice = 0;
	for (let i = 0; i < ring.length; i++) {
		const [x0, y0] = ring[i];
		const [x1, y1] = ring[(i + 1) % ring.length];
		twice += x0 * y1 - x1 * y0;
	}
	return twice / 2;
}

/** Even-odd test; points on the edge may fall either way. */
export function isInside(point: Vec2, ring: readonly Vec2[]): boolean {
	let inside = false;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const [xi, yi] = ring[i];
		const [xj, yj] = ring[j];
		if (yi > point[1] !== yj > point[1] && point[0] < ((xj - xi) * (point[1] - yi)) / (yj - yi) + xi) inside = !inside;
	}
	return inside;
}

/** Distance from a point to a segment, mm. */
export function segmentDistance(p: Vec2, a: Vec2, b: Vec2): number {
	const dx = b[0] - a[0];
	const dy = b[1] - a[1];
	const l2 = dx * dx + dy * dy;
	const f = l2 > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / l2)) : 0;
	return Math.hypot(p[0] - a[0] - f * dx, p[1] - a[1] - f * dy);
}

/** Mean of a ring's corners: the middle of a hole drawn as an even polygon. */
export const ringMiddle = (ring: readonly Vec2[]): Vec2 => [
	ring.reduce((s, p) => s + p[0], 0) / ring.length,
	ring.reduce((s, p) => s + p[1], 0) / ring.length
];

/** The place of a path nearest to a point: its station, and how far off it is, mm. */
export function nearestOnPath(path: readonly Vec2[], p: Vec2): { station: number; distance: number } {
	let best = { station: 0, distance: Infinity };
	let before = 0;
	for (let i = 1; i < path.length; i++) {
		const [a, b] = [path[i - 1], path[i]];
		const length = distance2(a, b);
		const f = length > 0 ? Math.min(1, Math.max(0, ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / length ** 2)) : 0;
		const distance = segmentDistance(p, a, b);
		if (distance < best.distance) best = { station: before + f * length, distance };
		before += length;
	}
	return best;
}

/** True where two segments cross at a point interior to both. */
export function segmentsCross(a: Vec2, b: Vec2, c: Vec2, d: Vec2): boolean {
	const side = (p: Vec2, q: Vec2, r: Vec2) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
	const eps = 1e-9 * (distance2(a, b) + distance2(c, d)) ** 2;
	const d1 = side(a, b, c);
	const d2 = side(a, b, d);
	const d3 = side(c, d, a);
	const d4 = side(c, d, b);
	return ((d1 > eps && d2 < -eps) || (d1 < -eps && d2 > eps)) && ((d3 > eps && d4 < -eps) || (d3 < -eps && d4 > eps));
}

/** True where a closed ring crosses itself. */
export function selfCrosses(ring: readonly Vec2[]): boolean {
	const n = ring.length;
	for (let i = 0; i < n; i++)
		for (let j = i + 2; j < n; j++) {
			if (i === 0 && j === n - 1) continue;
			if (segmentsCross(ring[i], ring[(i + 1) % n], ring[j], ring[(j + 1) % n])) return true;
		}
	return false;
}

/** Grid on which a deepest point is looked for, each way. */
const DEPTH_GRID = 24;

/** The point of a sheet farthest from its edges, holes and given lines, near enough (on a grid), with that distance, mm. */
export function deepestPoint(
	outline: readonly Vec2[],
	holes: readonly (readonly Vec2[])[],
	lines: readonly (readonly [Vec2, Vec2])[] = []
): { at: Vec2; depth: number } {
	const xs = outline.map((p) => p[0]);
	const ys = outline.map((p) => p[1]);
	const [x0, y0, w, h] = [Math.min(...xs), Math.min(...ys), Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
	const all = [...[outline, ...holes].flatMap((r) => r.map((p, i): [Vec2, Vec2] => [p, r[(i + 1) % r.length]])), ...lines];
	let best: { at: Vec2; depth: number } = { at: outline[0], depth: 0 };
	for (let i = 1; i < DEPTH_GRID; i++)
		for (let j = 1; j < DEPTH_GRID; j++) {
			const p: Vec2 = [x0 + (w * i) / DEPTH_GRID, y0 + (h * j) / DEPTH_GRID];
			if (!isInside(p, outline) || holes.some((r) => isInside(p, r))) continue;
			const depth = all.reduce((d, [a, b]) => Math.min(d, segmentDistance(p, a, b)), Infinity);
			if (depth > best.depth + 1e-9) best = { at: p, depth };
		}
	return best;
}
