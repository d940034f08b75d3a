/**
 * The sheets of the piece as solids: both faces half a thickness off the middle, the rim between them, shaded round where a sheet is
 * rolled or waves and sharp where it is folded. Numbers only; the scene puts them on the screen.
 */
import { cross, dot, norm, sub, type Vec3 } from '$core/geometry/vec';

export interface SheetMesh {
	xyz: ArrayLike<number>;
	tri: ArrayLike<number>;
	triPart: ArrayLike<number>;
}

/** Panels that meet at a smaller angle than this are shaded as one, degrees: a rolled sheet's facets and a wave, not a fold. */
const ROUND_DEG = 40;

const at = (xyz: ArrayLike<number>, n: number): Vec3 => [xyz[3 * n], xyz[3 * n + 1], xyz[3 * n + 2]];

function faceNormals(xyz: ArrayLike<number>, tri: ArrayLike<number>): Float32Array {
	const out = new Float32Array(tri.length);
	for (let e = 0; e < tri.length; e += 3) {
		const [p, q, r] = [0, 1, 2].map((i) => at(xyz, tri[e + i]));
		// as long as the triangle is large: larger ones count for more in a mean
		const n = cross(sub(q, p), sub(r, p));
		out.set(n, e);
	}
	return out;
}

export class SheetShape {
	/** corners of triangles that share a normal with each corner, as triangle numbers */
	private readonly round: number[][];
	/** free edges, by corners: the two nodes and a corner of the triangle they belong to */
	readonly rim: { a: number; b: number; cornerA: number; cornerB: number }[] = [];
	/** lines worth drawing: free edges and folds */
	readonly lines: number[] = [];

	constructor(
		private readonly mesh: SheetMesh,
		private readonly thickness: (part: number) => number
	) {
		const { xyz, tri, triPart } = mesh;
		const normals = faceNormals(xyz, tri);
		const unitOf = (e: number): Vec3 => {
			const n: Vec3 = [normals[3 * e], normals[3 * e + 1], normals[3 * e + 2]];
			const l = norm(n) || 1;
			return [n[0] / l, n[1] / l, n[2] / l];
		};
		const units = Array.from({ length: tri.length / 3 }, (_, e) => unitOf(e));
		const round = Math.cos((ROUND_DEG * Math.PI) / 180);
		const byNode = new Map<number, number[]>();
		for (let k = 0; k < tri.length; k++) {
			const list = byNode.get(tri[k]);
			if (list) list.push(Math.floor(k / 3));
			else byNode.set(tri[k], [Math.floor(k / 3)]);
		}
		this.round = Array.from({ length: tri.length }, (_, k) => {
			const own = Math.floor(k / 3);
			return byNode.get(tri[k])!.filter((e) => triPart[e] === triPart[own] && dot(units[e], units[own]) > round);
		});
		const edges = new Map<string, { a: number; b: number; corners: [number, number]; triangles: number[] }>();
		for (let k = 0; k < tri.length; k++) {
			const next = 3 * Math.floor(k / 3) + ((k + 1) % 3);
			const [a, b] = [tri[k], tri[next]];
			const key = a < b ? `${a}:${b}` : `${b}:${a}`;
			const known = edges.get(key);
			if (known) known.triangles.push(Math.floor(k / 3));
			else edges.set(key, { a, b, corners: [k, next], triangles: [Math.floor(k / 3)] });
		}
		for (const e of edges.values()) {
			const isFree = e.triangles.length === 1;
			if (isFree) this.rim.push({ a: e.a, b: e.b, cornerA: e.corners[0], cornerB: e.corners[1] });
			if (isFree || (e.triangles.length === 2 && dot(units[e.triangles[0]], units[e.triangles[1]]) < round)) this.lines.push(e.a, e.b);
		}
	}

	/** How many corners its triangles have: both faces, and two triangles for each length of rim. */
	get corners(): number {
		return 2 * this.mesh.tri.length + 6 * this.rim.length;
	}
	/** Which of the mesh's corners one of its own stands for. */
	source(k: number): number {
		const n = this.mesh.tri.length;
		if (k < 2 * n) return k < n ? k : 3 * Math.floor((k - n) / 3) + [0, 2, 1][(k - n) % 3];
		const r = this.rim[Math.floor((k - 2 * n) / 6)];
		return [r.cornerA, r.cornerA, r.cornerB, r.cornerB, r.cornerA, r.cornerB][(k - 2 * n) % 6];
	}

	/** Places and normals of every corner, 3 each, for nodes where they lie now. */
	fill(xyz: ArrayLike<number>, position: Float32Array, normal: Float32Array) {
		const { tri, triPart } = this.mesh;
		const faces = faceNormals(xyz, tri);
		const n = tri.length;
		const corner: Vec3[] = Array.from({ length: n }, (_, k) => {
			const sum: Vec3 = [0, 0, 0];
			for (const e of this.round[k]) for (let d = 0; d < 3; d++) sum[d] += faces[3 * e + d];
			const l = norm(sum) || 1;
			return [sum[0] / l, sum[1] / l, sum[2] / l];
		});
		const put = (k: number, source: number, side: 1 | -1, shade: Vec3) => {
			const half = (side * this.thickness(triPart[Math.floor(source / 3)])) / 2;
			for (let d = 0; d < 3; d++) {
				position[3 * k + d] = xyz[3 * tri[source] + d] + half * corner[source][d];
				normal[3 * k + d] = shade[d];
			}
		};
		for (let k = 0; k < n; k++) put(k, k, 1, corner[k]);
		for (let k = n; k < 2 * n; k++) {
			const s = this.source(k);
			put(k, s, -1, [-corner[s][0], -corner[s][1], -corner[s][2]]);
		}
		this.rim.forEach((r, i) => {
			const k = 2 * n + 6 * i;
			const out = cross(sub(at(xyz, r.b), at(xyz, r.a)), corner[r.cornerA]);
			const l = norm(out) || 1;
			const shade: Vec3 = [out[0] / l, out[1] / l, out[2] / l];
			const sides = [1, -1, 1, 1, -1, -1] as const;
			sides.forEach((side, j) => put(k + j, this.source(k + j), side, shade));
		});
	}
}
