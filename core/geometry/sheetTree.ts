/** The triangles of one sheet in nested boxes, so that a ray asks few of them. */
import { cross, dot, sub, type Vec3 } from './vec';

export type Triangle = readonly [Vec3, Vec3, Vec3];
interface Node {
	lo: Vec3;
	hi: Vec3;
	/** two halves, or the triangles themselves */
	halves?: [Node, Node];
	triangles?: readonly Triangle[];
}

/** So few are asked one by one. */
const LEAF = 6;
const SLACK = 1e-9;

function nodeOf(list: readonly Triangle[]): Node {
	const lo: Vec3 = [Infinity, Infinity, Infinity];
	const hi: Vec3 = [-Infinity, -Infinity, -Infinity];
	for (const t of list)
		for (const p of t)
			for (let d = 0; d < 3; d++) {
				lo[d] = Math.min(lo[d], p[d]);
				hi[d] = Math.max(hi[d], p[d]);
			}
	if (list.length <= LEAF) return { lo, hi, triangles: list };
	// halved across the longest side
	const d = [0, 1, 2].reduce((best, k) => (hi[k] - lo[k] > hi[best] - lo[best] ? k : best), 0);
	const sorted = [...list].sort((p, q) => p[0][d] + p[1][d] + p[2][d] - (q[0][d] + q[1][d] + q[2][d]));
	const half = sorted.length >> 1;
	return { lo, hi, halves: [nodeOf(sorted.slice(0, half)), nodeOf(sorted.slice(half))] };
}

/** A ray and a box, by slabs. */
function passes(o: Vec3, d: Vec3, { lo, hi }: Node): boolean {
	let [near, far] = [0, Infinity];
	for (let k = 0; k < 3; k++) {
		if (Math.abs(d[k]) < 1e-12) {
			if (o[k] < lo[k] - SLACK || o[k] > hi[k] + SLACK) return false;
			continue;
		}
		const [p, q] = [(lo[k] - o[k]) / d[k], (hi[k] - o[k]) / d[k]];
		near = Math.max(near, Math.min(p, q) - SLACK);
		far = Math.min(far, Math.max(p, q) + SLACK);
		if (near > far) return false;
	}
	return true;
}

/** @returns how many times `d` on from `o` a triangle is met, or -Infinity (Moller & Trumbore 1997) */
export function meetingAt(o: Vec3, d: Vec3, [p, q, r]: Triangle, slack = 0): number {
	const [e1, e2] = [sub(q, p), sub(r, p)];
	const h = cross(d, e2);
	const det = dot(e1, h);
	if (Math.abs(det) < 1e-12) return -Infinity;
	const s = sub(o, p);
	const u = dot(s, h) / det;
	if (u < -slack || u > 1 + slack) return -Infinity;
	const k = cross(s, e1);
	const v = dot(d, k) / det;
	return v >= -slack && u + v <= 1 + slack ? dot(e2, k) / det : -Infinity;
}

export class SheetTree {
	private readonly root: Node | undefined;
	constructor(triangles: readonly Triangle[]) {
		this.root = triangles.length ? nodeOf(triangles) : undefined;
	}
	/** Is any triangle met by the ray for which `meets` holds? */
	some(o: Vec3, d: Vec3, meets: (t: Triangle) => boolean): boolean {
		const todo = this.root ? [this.root] : [];
		for (let n = todo.pop(); n; n = todo.pop()) {
			if (!passes(o, d, n)) continue;
			if (n.halves) todo.push(...n.halves);
			else if (n.triangles!.some(meets)) return true;
		}
		return false;
	}
}
