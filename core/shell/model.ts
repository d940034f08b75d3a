/** Assembles and factors a linear shell model: triangles, beams, springs to ground. */
import { directionOf, nodeOf } from './freedoms';
import type { Vec3 } from '../geometry/vec';
import { BlockMatrix } from '../linalg/blockMatrix';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { graphOf, SparseFactor } from '../linalg/supernodal';
import { beamStiffness, type BeamSection } from './beam';
import { shellStiffness, type SheetMaterial } from './triangle';

export interface ShellModel {
	nodeCount: number;
	/** 3 per node, mm */
	xyz: Float64Array;
	tri: Int32Array;
	/** one per triangle */
	sheet: (triangle: number) => SheetMaterial;
	beams?: { nodes: [number, number]; up: Vec3; section: BeamSection }[];
	/** springs to ground, freedom = 6 node + direction */
	springs?: { freedom: number; stiffness: number }[];
	/** springs between two nodes, alike in x, y and z */
	couplings?: { nodes: [number, number]; stiffness: number }[];
	/** freedoms held fast */
	fixed?: number[];
}

export const nodeAt = (xyz: Float64Array, k: number): Vec3 => [xyz[3 * k], xyz[3 * k + 1], xyz[3 * k + 2]];

export const cornersOf = (model: Pick<ShellModel, 'xyz' | 'tri'>, e: number): [Vec3, Vec3, Vec3] => [
	nodeAt(model.xyz, model.tri[3 * e]),
	nodeAt(model.xyz, model.tri[3 * e + 1]),
	nodeAt(model.xyz, model.tri[3 * e + 2])
];

export interface FactoredModel {
	factor: SparseFactor;
	matrix: BlockMatrix;
	freedoms: number;
}

/** Stiffness of a spring between two nodes, 12 x 12. */
function between(stiffness: number): Float64Array {
	const k = new Float64Array(144);
	for (let d = 0; d < 3; d++)
		for (const [r, c, sign] of [
			[d, d, 1],
			[6 + d, 6 + d, 1],
			[d, 6 + d, -1],
			[6 + d, d, -1]
		])
			k[12 * r + c] = sign * stiffness;
	return k;
}

/** @throws SingularError where the piece can move freely */
export function factorModel(model: ShellModel, kernel?: KernelFactory): FactoredModel {
	const m = model.tri.length / 3;
	const cliques: ArrayLike<number>[] = [];
	for (let e = 0; e < m; e++) cliques.push(model.tri.subarray(3 * e, 3 * e + 3));
	for (const b of [...(model.beams ?? []), ...(model.couplings ?? [])]) cliques.push(b.nodes);
	const graph = graphOf(model.nodeCount, cliques);
	const matrix = new BlockMatrix(graph);
	for (let e = 0; e < m; e++) matrix.addElement(cliques[e], shellStiffness(cornersOf(model, e), model.sheet(e)));
	for (const b of model.beams ?? [])
		matrix.addElement(b.nodes, beamStiffness(nodeAt(model.xyz, b.nodes[0]), nodeAt(model.xyz, b.nodes[1]), b.up, b.section));
	for (const c of model.couplings ?? []) matrix.addElement(c.nodes, between(c.stiffness));
	for (const s of model.springs ?? []) matrix.addDiagonal(nodeOf(s.freedom), directionOf(s.freedom), s.stiffness);
	if (model.fixed?.length) matrix.fix(model.fixed);
	const factor = new SparseFactor(graph, kernel);
	factor.factorise(matrix);
	return { factor, matrix, freedoms: 6 * model.nodeCount };
}

/** Largest residual of K x = b against the largest load: the solver's own measure of error. */
export function residual(model: FactoredModel, x: Float64Array, b: Float64Array): number {
	const r = model.matrix.multiply(x);
	let worst = 0;
	let load = 0;
	for (let i = 0; i < b.length; i++) {
		worst = Math.max(worst, Math.abs(r[i] - b[i]));
		load = Math.max(load, Math.abs(b[i]));
	}
	return load > 0 ? worst / load : worst;
}
