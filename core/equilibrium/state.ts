/** Where every node is and how it is turned: positions and rotations of a shell model, whatever the size of the motion. */
import { freedom } from '../shell/freedoms';
import { expInto, multiply3 } from './rotation';

export interface State {
	/** 3 per node, mm */
	x: Float64Array;
	/** 9 per node, row-major; turned from the drawing */
	R: Float64Array;
}

export function stateAt(xyz: Float64Array): State {
	const n = xyz.length / 3;
	const R = new Float64Array(9 * n);
	for (let k = 0; k < n; k++) R[9 * k] = R[9 * k + 4] = R[9 * k + 8] = 1;
	return { x: xyz.slice(), R };
}

/** The state moved by `factor` times a step: 6 per node, mm and rad (spins from the left). */
export function moved(s: State, step: Float64Array, factor: number): State {
	const n = s.x.length / 3;
	const x = new Float64Array(3 * n);
	const R = new Float64Array(9 * n);
	const turn = new Float64Array(9);
	for (let k = 0; k < n; k++) {
		for (let d = 0; d < 3; d++) x[3 * k + d] = s.x[3 * k + d] + factor * step[freedom(k, d)];
		expInto(factor * step[freedom(k, 3)], factor * step[freedom(k, 4)], factor * step[freedom(k, 5)], turn);
		multiply3(turn, 0, s.R, 9 * k, R, 9 * k);
	}
	return { x, R };
}

/** A term of the potential energy: a kind of element, a load, a hold-down. */
export interface Term {
	/** node sets that this term couples, for the matrix's graph */
	cliques(): Iterable<ArrayLike<number>>;
	/**
	 * Adds the term at `s`: energy returned (N.mm); its gradient into `force` (6 per node), its second derivative (symmetric)
	 * into `matrix` when given. @param share of the full load, 0 to 1
	 */
	add(s: State, share: number, force?: Float64Array, matrix?: MatrixSink): number;
	/**
	 * Takes note of the internal forces that the linearisation at `s` foresees after `step`; the next tangent uses them for
	 * its geometric part instead of those of the displaced state. Without `step` the note is dropped.
	 */
	foresee?(s: State, share: number, step?: Float64Array): void;
}

export interface MatrixSink {
	addElement(nodes: ArrayLike<number>, k: Float64Array): void;
	addDiagonal(node: number, freedom: number, value: number): void;
	/** one entry of a node's own block */
	addNodeBlock(node: number, row: number, column: number, value: number): void;
}
