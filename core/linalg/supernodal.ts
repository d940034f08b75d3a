/**
 * Left-looking supernodal L S L^T (S = diagonal of signs) for symmetric node-block matrices, without pivoting.
 * The signs give the inertia; a pivot that is tiny against its own diagonal entry stops the factorisation by name.
 */
import type { BlockMatrix } from './blockMatrix';
import type { KernelFactory } from './kernel/kernel';
import { SingularError, type Numeric } from './numeric';
import { CompiledNumeric } from './numericCompiled';
import { TypeScriptNumeric } from './numericTypeScript';
import { graphOf, minimumDegree, type Graph } from './ordering';
import { analyse, BLOCK, type Symbolic } from './symbolic';

export class SparseFactor {
	readonly symbolic: Symbolic;
	private readonly numeric: Numeric;

	/** @param kernel compiled kernels of the host; the TypeScript ones are used without it */
	constructor(
		graph: Graph,
		readonly kernel?: KernelFactory
	) {
		this.symbolic = analyse(graph, minimumDegree(graph));
		this.numeric = kernel ? new CompiledNumeric(this.symbolic, graph, kernel) : new TypeScriptNumeric(this.symbolic);
	}

	/** Bytes held by the factor. */
	get bytes() {
		return this.numeric.bytes;
	}
	/** count of negative pivots of the last factorisation */
	get negative() {
		return this.numeric.negative;
	}

	/** @throws SingularError */
	factorise(A: BlockMatrix): this {
		this.numeric.factorise(A);
		return this;
	}

	/**
	 * Solves for `count` right-hand sides held side by side: b[freedom * count + c]. Returns the same layout.
	 */
	solveMany(b: Float64Array, count: number): Float64Array {
		const S = this.symbolic;
		const out = new Float64Array(b.length);
		for (let c0 = 0; c0 < count; c0 += 4) {
			const w = Math.min(4, count - c0);
			let { X } = this.numeric;
			const { touched } = this.numeric;
			X.fill(0);
			touched.fill(0);
			for (let k = 0; k < S.n; k++)
				for (let r = 0; r < BLOCK; r++)
					for (let c = 0; c < w; c++) {
						const v = b[(BLOCK * S.perm[k] + r) * count + c0 + c];
						if (v !== 0) {
							X[4 * (BLOCK * k + r) + c] = v;
							touched[k] = 1;
						}
					}
			this.numeric.forward4();
			this.numeric.backward4();
			({ X } = this.numeric);
			for (let k = 0; k < S.n; k++)
				for (let r = 0; r < BLOCK; r++) for (let c = 0; c < w; c++) out[(BLOCK * S.perm[k] + r) * count + c0 + c] = X[4 * (BLOCK * k + r) + c];
		}
		return out;
	}

	/**
	 * G = C^T K^-1 C for many sparse columns C: how each column's load moves every other column's place. Half the work of
	 * solving: K^-1 = L^-T S L^-1, so only the forward half is needed, and only where a column reaches.
	 * @returns columns.length x columns.length, row-major, symmetric
	 */
	gram(columns: readonly { at: readonly number[]; v: readonly number[] }[], progress: (share: number) => void = () => {}): Float64Array {
		const S = this.symbolic;
		const ns = S.start.length - 1;
		const m = columns.length;
		const G = new Float64Array(m * m);
		// by supernode: which columns reach it, and their forward values there
		const reach: number[][] = Array.from({ length: ns }, () => []);
		const values: Float64Array[][] = Array.from({ length: ns }, () => []);
		for (let c0 = 0; c0 < m; c0 += 4) {
			const { X, touched } = this.numeric;
			X.fill(0);
			touched.fill(0);
			const w = Math.min(4, m - c0);
			for (let c = 0; c < w; c++) {
				const { at, v } = columns[c0 + c];
				at.forEach((f, i) => {
					const node = Math.floor(f / BLOCK);
					const k = S.inverse[node];
					X[4 * (BLOCK * k + (f - BLOCK * node)) + c] += v[i];
					touched[k] = 1;
				});
			}
			this.numeric.forward4();
			for (let s = 0; s < ns; s++) {
				let any = 0;
				for (let k = S.start[s]; k < S.start[s + 1]; k++) any |= touched[k];
				if (!any) continue;
				const first = BLOCK * S.start[s];
				const width = BLOCK * (S.start[s + 1] - S.start[s]);
				for (let c = 0; c < w; c++) {
					const row = new Float64Array(width);
					for (let j = 0; j < width; j++) row[j] = X[4 * (first + j) + c];
					reach[s].push(c0 + c);
					values[s].push(row);
				}
			}
			if (c0 % 32 === 0) progress((0.7 * c0) / m);
		}
		for (let s = 0; s < ns; s++) {
			const cols = reach[s];
			if (!cols.length) continue;
			const width = BLOCK * (S.start[s + 1] - S.start[s]);
			const first = BLOCK * S.start[s];
			const rows = 3 * Math.ceil(cols.length / 3);
			const V = new Float64Array(rows * width);
			values[s].forEach((row, i) => V.set(row, i * width));
			values[s] = [];
			let signed = V;
			if (this.numeric.sign.subarray(first, first + width).some((q) => q < 0)) {
				signed = V.slice();
				for (let i = 0; i < rows; i++) for (let j = 0; j < width; j++) signed[i * width + j] *= this.numeric.sign[first + j];
			}
			const P = this.numeric.square(V, signed, rows, width);
			for (let i = 0; i < cols.length; i++) for (let j = 0; j <= i; j++) G[cols[i] * m + cols[j]] += P[i * rows + j];
			if (s % 32 === 0) progress(0.7 + (0.3 * s) / ns);
		}
		for (let i = 0; i < m; i++) for (let j = 0; j < i; j++) G[j * m + i] = G[i * m + j];
		return G;
	}

	solve(b: Float64Array): Float64Array {
		return this.solveMany(b, 1);
	}
}

export { graphOf, SingularError };
