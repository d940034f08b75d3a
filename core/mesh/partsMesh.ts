/** Every part meshed and formed, before the seams are found between them. */
import type { Part } from '../document/schema';
import type { FlatMesh } from './flatMesh';

export interface PartMesh {
	part: Part;
	/** first node and first triangle in the assembly */
	node0: number;
	tri0: number;
	flat: FlatMesh;
	panelCount: number;
}

export interface PartsMesh {
	sizeMm: number;
	nodeCount: number;
	/** 3 per node, mm */
	xyz: Float64Array;
	/** 3 per triangle */
	tri: Int32Array;
	/** part index of each triangle */
	triPart: Int32Array;
	/** panel of each triangle within its part */
	triPanel: Int32Array;
	parts: PartMesh[];
	/** nodes of strongback lines, by hold-down id */
	lines: Map<string, Int32Array>;
	/** nodes of supports, by hold-down id */
	spots: Map<string, number>;
}
