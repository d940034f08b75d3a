/** Structured meshes for the published cases: a grid of (nu x nv) cells mapped into space, two triangles a cell. */
import type { Vec3 } from '$core/geometry/vec';

export interface Grid {
	nodeCount: number;
	xyz: Float64Array;
	tri: Int32Array;
	at(i: number, j: number): number;
}

export function grid(nu: number, nv: number, map: (u: number, v: number) => Vec3, alternate = true): Grid {
	const at = (i: number, j: number) => j * (nu + 1) + i;
	const xyz = new Float64Array(3 * (nu + 1) * (nv + 1));
	for (let j = 0; j <= nv; j++) for (let i = 0; i <= nu; i++) xyz.set(map(i / nu, j / nv), 3 * at(i, j));
	const tri: number[] = [];
	for (let j = 0; j < nv; j++)
		for (let i = 0; i < nu; i++) {
			const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
			if (!alternate || (i + j) % 2 === 0) tri.push(a, b, c, a, c, d);
			else tri.push(a, b, d, b, c, d);
		}
	return { nodeCount: (nu + 1) * (nv + 1), xyz, tri: Int32Array.from(tri), at };
}

/** Several grids as one mesh: nodes that lie on each other become one. `node(g, i, j)` finds a grid's node in the whole. */
export function welded(grids: readonly Grid[]): {
	nodeCount: number;
	xyz: Float64Array;
	tri: Int32Array;
	node(grid: number, i: number, j: number): number;
} {
	const found = new Map<string, number>();
	const xyz: number[] = [];
	const maps = grids.map((g) =>
		Array.from({ length: g.nodeCount }, (_, k) => {
			const p = [0, 1, 2].map((d) => g.xyz[3 * k + d]);
			const key = p.map((v) => v.toFixed(6)).join('/');
			let id = found.get(key);
			if (id === undefined) {
				id = xyz.length / 3;
				found.set(key, id);
				xyz.push(...p);
			}
			return id;
		})
	);
	return {
		nodeCount: xyz.length / 3,
		xyz: Float64Array.from(xyz),
		tri: Int32Array.from(grids.flatMap((g, q) => Array.from(g.tri, (k) => maps[q][k]))),
		node: (q, i, j) => maps[q][grids[q].at(i, j)]
	};
}
