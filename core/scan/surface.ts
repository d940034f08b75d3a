/** What a cloud is laid on: the middle of the sheet as triangles, and whoever finds the nearest place of it (the page has a tree for that). */
import type { PartsMesh } from '../mesh/partsMesh';

export interface Hit {
	x: number;
	y: number;
	z: number;
	tri: number;
}

export interface Surface {
	/** 3 per node, mm; 3 per triangle */
	xyz: Float64Array;
	tri: ArrayLike<number>;
	/** part of each triangle, and half the thickness of each part, mm */
	triPart: ArrayLike<number>;
	halves: readonly number[];
	/** unit normals, 3 per triangle */
	normals: Float64Array;
	/** @param out where the answer goes */
	nearest(x: number, y: number, z: number, out: Hit): void;
}

export function normalsOf(xyz: ArrayLike<number>, tri: ArrayLike<number>): Float64Array {
	const out = new Float64Array(tri.length);
	for (let e = 0; e < tri.length; e += 3) {
		const [a, b, c] = [3 * tri[e], 3 * tri[e + 1], 3 * tri[e + 2]];
		const [ux, uy, uz] = [xyz[b] - xyz[a], xyz[b + 1] - xyz[a + 1], xyz[b + 2] - xyz[a + 2]];
		const [vx, vy, vz] = [xyz[c] - xyz[a], xyz[c + 1] - xyz[a + 1], xyz[c + 2] - xyz[a + 2]];
		const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
		const size = Math.hypot(...n);
		for (let d = 0; d < 3; d++) out[e + d] = n[d] / size;
	}
	return out;
}

/** The piece as drawn, or moved by `u` (3 per node). */
export function surfaceOf(mesh: PartsMesh, nearest: Surface['nearest'], u?: ArrayLike<number>): Surface {
	const xyz = Float64Array.from(mesh.xyz, (v, i) => v + (u ? u[i] : 0));
	return {
		xyz,
		tri: mesh.tri,
		triPart: mesh.triPart,
		halves: mesh.parts.map((p) => p.part.thicknessMm / 2),
		normals: normalsOf(xyz, mesh.tri),
		nearest
	};
}
