/** A shape as it is seen from the plan's three datum points, 3-2-1: the first in its place, the second on its axis, the third in its plane. */
import type { PlanDocument } from '../document/schema';
import type { Vec3 } from '../geometry/vec';
import { seenFromDatum } from '../linalg/rigid';
import { locate, type AssemblyMesh } from '../mesh/assemblyMesh';

/** @param u displacement by node, 3 each, mm; whatever rigid motion it holds goes @returns nothing where the plan has no datum */
export function fromDatum(plan: PlanDocument, mesh: AssemblyMesh, u: ArrayLike<number>): Float32Array | undefined {
	if (!plan.datum) return undefined;
	const at = [plan.datum.origin, plan.datum.axis, plan.datum.plane].map((id) => {
		const p = plan.points.find((q) => q.id === id)!;
		return locate(mesh, p.part, p.at);
	});
	const place = (of: (node: number, d: number) => number) =>
		at.map((l) => [0, 1, 2].map((d) => l.nodes.reduce((s, n, k) => s + l.weights[k] * of(n, d), 0))) as [Vec3, Vec3, Vec3];
	const drawn = place((n, d) => mesh.xyz[3 * n + d]);
	const now = place((n, d) => mesh.xyz[3 * n + d] + u[3 * n + d]);
	const out = new Float32Array(3 * mesh.nodeCount);
	for (let k = 0; k < mesh.nodeCount; k++) {
		const p = [0, 1, 2].map((d) => mesh.xyz[3 * k + d] + u[3 * k + d]) as Vec3;
		seenFromDatum(drawn, now, p).forEach((v, d) => (out[3 * k + d] = v - mesh.xyz[3 * k + d]));
	}
	return out;
}
