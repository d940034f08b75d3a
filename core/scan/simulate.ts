/** A scanner that does not exist: clouds of a piece moved as one says, for tests and for the stand-in. */
import type { Vec3 } from '../geometry/vec';
import { normalsFrom, uniformFrom } from '../linalg/random';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { moved, type Motion } from './motion';
import { normalsOf } from './surface';

export interface CloudOptions {
	count: number;
	/** mm, 3 per node */
	u?: ArrayLike<number>;
	/** half thicknesses off the middle along the normal: 1 the front, -1 the back */
	face?: number;
	noiseMm?: number;
	/** points of a bench under it */
	bench?: number;
	motion?: Motion;
	seed?: number;
}

/** A cloud over the whole piece, each triangle by its area. */
export function cloudOf(mesh: AssemblyMesh, o: CloudOptions): Float32Array {
	const next = uniformFrom(o.seed ?? 1);
	const normal = normalsFrom((o.seed ?? 1) + 1);
	const xyz = Float64Array.from(mesh.xyz, (v, i) => v + (o.u ? o.u[i] : 0));
	const normals = normalsOf(xyz, mesh.tri);
	const triangles = mesh.tri.length / 3;
	const upTo = new Float64Array(triangles);
	let whole = 0;
	for (let e = 0; e < triangles; e++) {
		const [a, b, c] = [0, 1, 2].map((k) => 3 * mesh.tri[3 * e + k]);
		const [u, v] = [b, c].map((q) => [0, 1, 2].map((d) => xyz[q + d] - xyz[a + d]));
		whole += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
		upTo[e] = whole;
	}
	const out = new Float32Array(3 * (o.count + (o.bench ?? 0)));
	const put = (i: number, p: Vec3) => out.set(o.motion ? moved(o.motion, p) : p, 3 * i);
	for (let i = 0; i < o.count; i++) {
		const at = next() * whole;
		let [lo, hi] = [0, triangles - 1];
		while (lo < hi) {
			const mid = (lo + hi) >> 1;
			if (upTo[mid] < at) lo = mid + 1;
			else hi = mid;
		}
		let [f, g] = [next(), next()];
		if (f + g > 1) [f, g] = [1 - f, 1 - g];
		const [a, b, c] = [0, 1, 2].map((k) => 3 * mesh.tri[3 * lo + k]);
		const off = (o.face ?? 0) * (mesh.parts[mesh.triPart[lo]].part.thicknessMm / 2) + (o.noiseMm ?? 0) * normal();
		put(i, [0, 1, 2].map((d) => (1 - f - g) * xyz[a + d] + f * xyz[b + d] + g * xyz[c + d] + off * normals[3 * lo + d]) as Vec3);
	}
	const low = Math.min(...Array.from({ length: mesh.nodeCount }, (_, k) => xyz[3 * k + 2]));
	for (let i = 0; i < (o.bench ?? 0); i++) put(o.count + i, [1200 * (next() - 0.5), 1200 * (next() - 0.5), low - 40 - next()]);
	return out;
}
