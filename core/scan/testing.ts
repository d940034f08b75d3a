/** For tests: the nearest place of a mesh by trying every triangle. */
import type { Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { Hit, Surface } from './surface';

/** Nearest place of one triangle, by its seven regions (Ericson, Real-Time Collision Detection, 2005, 5.1.5; from memory). */
function onTriangle(p: Vec3, a: Vec3, b: Vec3, c: Vec3): Vec3 {
	const sub = (x: Vec3, y: Vec3): Vec3 => [x[0] - y[0], x[1] - y[1], x[2] - y[2]];
	const dot = (x: Vec3, y: Vec3) => x[0] * y[0] + x[1] * y[1] + x[2] * y[2];
	const mix = (f: number, x: Vec3, g: number, y: Vec3): Vec3 => [a[0] + f * x[0] + g * y[0], a[1] + f * x[1] + g * y[1], a[2] + f * x[2] + g * y[2]];
	const [ab, ac, ap, bp, cp] = [sub(b, a), sub(c, a), sub(p, a), sub(p, b), sub(p, c)];
	const [d1, d2, d3, d4, d5, d6] = [dot(ab, ap), dot(ac, ap), dot(ab, bp), dot(ac, bp), dot(ab, cp), dot(ac, cp)];
	if (d1 <= 0 && d2 <= 0) return a;
	if (d3 >= 0 && d4 <= d3) return b;
	if (d6 >= 0 && d5 <= d6) return c;
	const vc = d1 * d4 - d3 * d2;
	if (vc <= 0 && d1 >= 0 && d3 <= 0) return mix(d1 / (d1 - d3), ab, 0, ac);
	const vb = d5 * d2 - d1 * d6;
	if (vb <= 0 && d2 >= 0 && d6 <= 0) return mix(0, ab, d2 / (d2 - d6), ac);
	const va = d3 * d6 - d5 * d4;
	if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const w = (d4 - d3) / (d4 - d3 + d5 - d6);
		return mix(1 - w, ab, w, ac);
	}
	const sum = va + vb + vc;
	return mix(vb / sum, ab, vc / sum, ac);
}

export function tryAll(mesh: Pick<AssemblyMesh, 'xyz' | 'tri'>): Surface['nearest'] {
	const at = (n: number): Vec3 => [mesh.xyz[3 * n], mesh.xyz[3 * n + 1], mesh.xyz[3 * n + 2]];
	const corners = Array.from({ length: mesh.tri.length / 3 }, (_, e) => [0, 1, 2].map((k) => at(mesh.tri[3 * e + k])) as [Vec3, Vec3, Vec3]);
	return (x: number, y: number, z: number, out: Hit) => {
		let least = Infinity;
		corners.forEach((t, e) => {
			const q = onTriangle([x, y, z], ...t);
			const d = (q[0] - x) ** 2 + (q[1] - y) ** 2 + (q[2] - z) ** 2;
			if (d >= least) return;
			least = d;
			[out.x, out.y, out.z] = q;
			out.tri = e;
		});
	};
}
