/** The potential energy of a piece as a sum of terms, with its gradient, its tangent and one factorisation kept for all steps. */
import { directionOf, nodeOf, PER_NODE } from '../shell/freedoms';
import { BlockMatrix } from '../linalg/blockMatrix';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { graphOf, SparseFactor } from '../linalg/supernodal';
import type { State, Term } from './state';

export class EquilibriumSystem {
	readonly matrix: BlockMatrix;
	readonly factor: SparseFactor;
	private readonly fixed: Uint8Array;

	/** @param fixed freedoms held fast (6 node + direction) */
	constructor(
		readonly nodeCount: number,
		readonly terms: readonly Term[],
		readonly fixedList: readonly number[] = [],
		kernel?: KernelFactory
	) {
		const cliques = function* () {
			for (const t of terms) yield* t.cliques();
		};
		const graph = graphOf(nodeCount, cliques());
		this.matrix = new BlockMatrix(graph);
		this.factor = new SparseFactor(graph, kernel);
		this.fixed = new Uint8Array(PER_NODE * nodeCount);
		for (const f of fixedList) this.fixed[f] = 1;
	}

	get freedoms() {
		return 6 * this.nodeCount;
	}

	energy(s: State, share: number): number {
		let e = 0;
		for (const t of this.terms) e += t.add(s, share);
		return e;
	}

	gradient(s: State, share: number, into: Float64Array = new Float64Array(this.freedoms)): { energy: number; gradient: Float64Array } {
		into.fill(0);
		let energy = 0;
		for (const t of this.terms) energy += t.add(s, share, into);
		for (const f of this.fixedList) into[f] = 0;
		return { energy, gradient: into };
	}

	/** See Term.foresee. */
	foresee(s: State, share: number, step?: Float64Array) {
		for (const t of this.terms) t.foresee?.(s, share, step);
	}

	/** Fills the tangent (with `shift` times `weights` on its diagonal) and factors it. @returns count of negative pivots */
	factorTangent(s: State, share: number, shift = 0, weights?: Float64Array): number {
		this.fillTangent(s, share);
		return this.factorShifted(shift, weights);
	}

	/** Factors the tangent as it was last filled, with `more` times `weights` added to its diagonal: what is there stays there. @returns count of negative pivots */
	factorShifted(more: number, weights?: Float64Array): number {
		if (more > 0 && weights)
			for (let f = 0; f < weights.length; f++) if (!this.fixed[f]) this.matrix.addDiagonal(nodeOf(f), directionOf(f), more * weights[f]);
		this.factor.factorise(this.matrix);
		return this.factor.negative;
	}

	fillTangent(s: State, share: number) {
		this.matrix.clear();
		for (const t of this.terms) t.add(s, share, undefined, this.matrix);
		if (this.fixedList.length) this.matrix.fix(this.fixedList);
	}
}
