/** Sheet that was not flat before welding, as a displacement of the mesh: the plan's grids on its parts, and buckling modes. */
import { freedom } from '../shell/freedoms';
import { norm, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { layoutBox } from '../mesh/assemblyMesh';
import type { PlanDocument } from '../document/schema';
import { nodeNormals } from './panels';
import { Refusal } from '../refusal/refusal';

/** 3 per node, mm; undefined where the plan has no grid */
export function gridOutOfFlat(plan: PlanDocument, mesh: AssemblyMesh): Float64Array | undefined {
	const grids = plan.shape?.outOfFlat ?? [];
	if (!grids.length) return undefined;
	const out = new Float64Array(3 * mesh.nodeCount);
	const normals = nodeNormals(mesh);
	for (const g of grids) {
		const p = mesh.parts.find((q) => q.part.id === g.part)!;
		const box = layoutBox(p.part.outline);
		const place = (v: number, lo: number, hi: number, n: number): [number, number] => {
			const x = Math.min(n - 1, Math.max(0, ((v - lo) / (hi - lo)) * (n - 1)));
			const i = Math.min(n - 2, Math.floor(x));
			return [i, x - i];
		};
		for (let k = 0; k < p.flat.xy.length / 2; k++) {
			const [i, f] = place(p.flat.xy[2 * k], box.x0, box.x1, g.nx);
			const [j, h] = place(p.flat.xy[2 * k + 1], box.y0, box.y1, g.ny);
			const at = (a: number, b: number) => g.heightsMm[b * g.nx + a];
			const height = (1 - f) * (1 - h) * at(i, j) + f * (1 - h) * at(i + 1, j) + (1 - f) * h * at(i, j + 1) + f * h * at(i + 1, j + 1);
			for (let d = 0; d < 3; d++) out[3 * (p.node0 + k) + d] += height * normals[3 * (p.node0 + k) + d];
		}
	}
	return out;
}

/** Adds buckling modes (6 per node) at their largest heights. @throws RangeError where there are not so many */
export function modesOutOfFlat(plan: PlanDocument, modes: readonly { shape: Float64Array }[], nodeCount: number, grid?: Float64Array): Float64Array {
	const out = grid?.slice() ?? new Float64Array(3 * nodeCount);
	for (const { mode, heightMm } of plan.shape?.modes ?? []) {
		const m = modes[mode - 1];
		if (!m) throw new Refusal(`shape.modes asks for buckling mode ${mode}; only ${modes.length} were found`);
		let most = 0;
		let sign = 1;
		for (let k = 0; k < nodeCount; k++) {
			const u: Vec3 = [m.shape[freedom(k, 0)], m.shape[freedom(k, 1)], m.shape[freedom(k, 2)]];
			if (norm(u) > most) {
				most = norm(u);
				// a mode has no sign of its own: its largest motion goes the way of its largest axis
				const d = u.reduce((p, v, i) => (Math.abs(v) > Math.abs(u[p]) ? i : p), 0);
				sign = Math.sign(u[d]);
			}
		}
		for (let k = 0; k < nodeCount; k++) for (let d = 0; d < 3; d++) out[3 * k + d] += (sign * heightMm * m.shape[freedom(k, d)]) / most;
	}
	return out;
}
