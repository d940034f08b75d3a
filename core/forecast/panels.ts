import { cross, sub } from '../geometry/vec';
import { nodeAt } from '../shell/model';
/** What a panel of a part is called: the bends it hangs on say where it is; the base has none between itself and the frame. */
import type { AssemblyMesh } from '../mesh/assemblyMesh';

export const panelNames = (mesh: AssemblyMesh) => (partIndex: number, panel: number) => {
	const { part, panelCount } = mesh.parts[partIndex];
	if (panelCount < 2) return part.name;
	return `${part.name}, ${panel === 0 ? 'base panel' : `panel ${panel + 1} of ${panelCount}`}`;
};

/** Unit normal at each node, 3 per node: the mean of its triangles' by area. */
export function nodeNormals(mesh: AssemblyMesh): Float64Array {
	const out = new Float64Array(3 * mesh.nodeCount);
	for (let e = 0; e < mesh.tri.length; e += 3) {
		const [p, q, r] = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[e + i]));
		const n = cross(sub(q, p), sub(r, p));
		for (let i = 0; i < 3; i++) for (let d = 0; d < 3; d++) out[3 * mesh.tri[e + i] + d] += n[d];
	}
	for (let k = 0; k < mesh.nodeCount; k++) {
		const size = Math.hypot(out[3 * k], out[3 * k + 1], out[3 * k + 2]) || 1;
		for (let d = 0; d < 3; d++) out[3 * k + d] /= size;
	}
	return out;
}
