/** The condensed model of the last shape, and what was worked out on it: an edit of tacks, settings or order is dense algebra only. */
import type { PlanDocument } from '../document/schema';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { assemblyMesh, locate, type AssemblyMesh, type MeshPoint } from '../mesh/assemblyMesh';
import { shapeOf } from '../mesh/shapeOf';
import type { Place } from '../features/feature';
import type { WeldResponse } from '../response/weldResponse';
import type { SheetMaterial } from '../shell/triangle';
import { condense, type Condensed } from '../staging/condense';

export interface CondensedPiece {
	mesh: AssemblyMesh;
	condensed: Condensed;
	/** the output points, in the mesh */
	outputs: MeshPoint[];
}

/** Responses and factors kept at most: then all go, for a plan uses few. */
const MOST_RESPONSES = 500;
const MOST_FORCES = 3000;

export class ForecastCache {
	private key = '';
	private piece?: CondensedPiece;
	private readonly responses = new Map<string, WeldResponse>();
	/** factors on tendon forces under other conditions, by condition and response */
	private readonly forces = new Map<string, number>();

	/** @param kernel compiled kernels of the host, if it has them */
	constructor(readonly kernel?: KernelFactory) {}

	/**
	 * The piece condensed, or as it was last time where its shape is the same. @param places where it is read
	 * @returns it with the parts and joints of this plan, and whether it was there already
	 */
	pieceOf(
		plan: PlanDocument,
		sheets: SheetMaterial[],
		places: readonly Place[],
		progress: (share: number) => void
	): CondensedPiece & { reused: boolean } {
		const key = shapeOf(plan);
		if (this.piece && this.key === key) {
			const { mesh } = this.piece;
			// same shape, perhaps other names, gaps or settings
			mesh.parts.forEach((p, k) => (p.part = plan.parts[k]));
			mesh.seams.forEach((s) => (s.joint = plan.joints.find((j) => j.id === s.joint.id)!));
			return { ...this.piece, reused: true };
		}
		const mesh = assemblyMesh(plan);
		progress(0.05);
		const outputs = places.map((p) => locate(mesh, p.part, p.at));
		const condensed = condense(plan, mesh, sheets, outputs, (s) => progress(0.05 + 0.75 * s), this.kernel);
		this.piece = { mesh, condensed, outputs };
		this.key = key;
		return { ...this.piece, reused: false };
	}

	response(memo: string, work: () => WeldResponse): WeldResponse {
		return kept(this.responses, memo, MOST_RESPONSES, work);
	}
	force(memo: string, work: () => number): number {
		return kept(this.forces, memo, MOST_FORCES, work);
	}
}

function kept<T>(map: Map<string, T>, key: string, most: number, work: () => T): T {
	let value = map.get(key);
	if (value === undefined) {
		value = work();
		if (map.size > most) map.clear();
		map.set(key, value);
	}
	return value;
}
