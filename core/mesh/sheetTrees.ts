/** A piece ready for rays: the triangles of each part in nested boxes. */
import { SheetTree, type Triangle } from '../geometry/sheetTree';
import { norm, sub, type Vec3 } from '../geometry/vec';
import { nodeAt } from '../shell/model';
import type { AssemblyMesh } from './assemblyMesh';

/** @returns a tree for each part, in the mesh's order, and how large the piece is, mm: across its box, corner to corner */
export function sheetTrees(mesh: AssemblyMesh): { trees: SheetTree[]; size: number } {
	const triangles: Triangle[][] = mesh.parts.map(() => []);
	const lo: Vec3 = [Infinity, Infinity, Infinity];
	const hi: Vec3 = [-Infinity, -Infinity, -Infinity];
	for (let e = 0; e < mesh.triPart.length; e++) {
		const t = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i])) as [Vec3, Vec3, Vec3];
		triangles[mesh.triPart[e]].push(t);
		for (const p of t)
			for (let d = 0; d < 3; d++) {
				lo[d] = Math.min(lo[d], p[d]);
				hi[d] = Math.max(hi[d], p[d]);
			}
	}
	return { trees: triangles.map((list) => new SheetTree(list)), size: norm(sub(hi, lo)) };
}
