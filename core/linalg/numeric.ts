/** What a sparse factor needs of its numeric kernels; see numericTypeScript.ts and numericCompiled.ts. */
import { Refusal } from '../refusal/refusal';
import type { BlockMatrix } from './blockMatrix';
import { BLOCK } from './symbolic';

/** A pivot below this share of its original diagonal means the piece can move freely there. */
export const PIVOT_FLOOR = 1e-13;

export class SingularError extends Refusal {
	/** freedom (6 node + direction) where the matrix ran out of stiffness */
	readonly freedom: number;
	constructor(freedom: number) {
		super(`The model can move freely at node ${Math.floor(freedom / BLOCK)}, direction ${freedom % BLOCK}: a part is tied to nothing`);
		this.freedom = freedom;
	}
}

export interface Numeric {
	/** count of negative pivots of the last factorisation */
	readonly negative: number;
	/** bytes held */
	readonly bytes: number;
	/** signs of the pivots, new numbering */
	readonly sign: Float64Array;
	/** four right-hand sides side by side, new numbering: 4 x 6 per node. Taken anew after each call: memory may move */
	readonly X: Float64Array;
	/** one per node: is there anything in X? */
	readonly touched: Uint8Array;
	/** @throws SingularError */
	factorise(A: BlockMatrix): void;
	/** L y = X, in place, passing over supernodes nothing has reached */
	forward4(): void;
	/** S L^T x = X, in place */
	backward4(): void;
	/** lower triangle of V signed^T; V and `signed` are rows x width (multiples of 3 and 6) */
	square(V: Float64Array, signed: Float64Array, rows: number, width: number): Float64Array;
}
