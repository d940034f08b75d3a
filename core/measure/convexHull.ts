/**
 * Convex hull in space, point by point: each point that sees faces from outside replaces them by faces from their rim to itself
 * (Seidel's incremental hull). Which side a point lies on is decided without rounding by Shewchuk's predicates (robust-predicates), so
 * the result depends on the points and their order alone. No code is made at run time: the page's own security policy forbids it.
 */
import { orient3d } from 'robust-predicates';
import type { Vec3 } from '../geometry/vec';

/**
 * @param order indices of the points, the first four of them not in one plane
 * @returns triangles of the hull, each seen counterclockwise from outside; points inside, or on a face, are in none
 */
export function convexHull(points: readonly Vec3[], order: readonly number[]): [number, number, number][] {
	/** below zero where point p sees the face from outside */
	const side = ([i, j, k]: readonly number[], p: number) => {
		const [a, b, c, d] = [points[i], points[j], points[k], points[p]];
		return orient3d(a[0], a[1], a[2], b[0], b[1], b[2], c[0], c[1], c[2], d[0], d[1], d[2]);
	};
	const [a, b, c, d] = order;
	const outward = (i: number, j: number, k: number, inside: number): [number, number, number] =>
		side([i, j, k], inside) < 0 ? [i, k, j] : [i, j, k];
	let faces = [outward(a, b, c, d), outward(a, b, d, c), outward(a, c, d, b), outward(b, c, d, a)];
	for (const p of order.slice(4)) {
		const [seen, hidden]: (typeof faces)[] = [[], []];
		for (const f of faces) (side(f, p) < 0 ? seen : hidden).push(f);
		if (!seen.length) continue;
		const edges = new Set(seen.flatMap(([i, j, k]) => [`${i}:${j}`, `${j}:${k}`, `${k}:${i}`]));
		// the rim: edges of seen faces whose other side is not seen
		for (const [i, j, k] of seen)
			for (const [u, v] of [
				[i, j],
				[j, k],
				[k, i]
			])
				if (!edges.has(`${v}:${u}`)) hidden.push([u, v, p]);
		faces = hidden;
	}
	return faces;
}
