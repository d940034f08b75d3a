/**
 * Cholesky factors L L^T of symmetric positive definite matrices that share one pattern, one number a place: row by row
 * ("up-looking"), in a minimum degree order. The pattern of L is worked out once; each factor is then its numbers only.
 * Davis (2006), Direct Methods for Sparse Linear Systems, SIAM, ch. 4 (elimination tree, reach of a row, up-looking).
 */
import { minimumDegree, type Graph } from './ordering';

/** The numbers of one factor; read by the pattern it came from. */
export type FactorNumbers = Float64Array;

export class PatternCholesky {
	private readonly perm: Int32Array;
	/** L by columns: the diagonal first, then rows below in order */
	private readonly ptr: Int32Array;
	private readonly row: Int32Array;
	/** the columns that meet each row left of its diagonal, in an order in which they can be eliminated */
	private readonly rowPtr: Int32Array;
	private readonly rowCols: Int32Array;
	/** where the entries of the matrix left of the diagonal of each row are: column (new), and index into the graph's neighbours */
	private readonly entryPtr: Int32Array;
	private readonly entryCol: Int32Array;
	private readonly entryAt: Int32Array;
	private readonly x: Float64Array;

	constructor(private readonly graph: Graph) {
		const { n, ptr, ind } = graph;
		this.perm = minimumDegree(graph);
		this.x = new Float64Array(n);
		const inverse = new Int32Array(n);
		this.perm.forEach((old, k) => (inverse[old] = k));
		const parent = new Int32Array(n).fill(-1);
		const mark = new Int32Array(n).fill(-1);
		const count = new Int32Array(n).fill(1);
		const [entryCol, entryAt, rowCols]: number[][] = [[], [], []];
		this.entryPtr = new Int32Array(n + 1);
		this.rowPtr = new Int32Array(n + 1);
		for (let k = 0; k < n; k++) {
			mark[k] = k;
			const met: number[] = [];
			for (let p = ptr[this.perm[k]]; p < ptr[this.perm[k] + 1]; p++) {
				const i = inverse[ind[p]];
				if (i >= k) continue;
				entryCol.push(i);
				entryAt.push(p);
				for (let j = i; mark[j] !== k; j = parent[j]) {
					if (parent[j] < 0) parent[j] = k;
					mark[j] = k;
					met.push(j);
					count[j]++;
				}
			}
			// a column comes before its parent: ascending order is one in which they can be eliminated
			rowCols.push(...met.sort((a, b) => a - b));
			this.entryPtr[k + 1] = entryCol.length;
			this.rowPtr[k + 1] = rowCols.length;
		}
		this.entryCol = Int32Array.from(entryCol);
		this.entryAt = Int32Array.from(entryAt);
		this.rowCols = Int32Array.from(rowCols);
		this.ptr = new Int32Array(n + 1);
		for (let k = 0; k < n; k++) this.ptr[k + 1] = this.ptr[k] + count[k];
		this.row = new Int32Array(this.ptr[n]);
		const next = this.ptr.slice(0, n);
		for (let k = 0; k < n; k++) {
			for (let p = this.rowPtr[k]; p < this.rowPtr[k + 1]; p++) this.row[next[this.rowCols[p]]++] = k;
			this.row[next[k]++] = k;
		}
	}

	/** Numbers in one factor. */
	get size() {
		return this.row.length;
	}

	/**
	 * @param diagonal by place
	 * @param values off the diagonal, as the graph lists its neighbours (each pair twice, with the same value)
	 * @throws RangeError where the matrix is not positive definite
	 */
	factorise(diagonal: Float64Array, values: Float64Array): FactorNumbers {
		const { x, ptr, row } = this;
		const { n } = this.graph;
		const L = new Float64Array(this.size);
		const next = ptr.slice(0, n);
		for (let k = 0; k < n; k++) {
			for (let p = this.entryPtr[k]; p < this.entryPtr[k + 1]; p++) x[this.entryCol[p]] += values[this.entryAt[p]];
			const whole = diagonal[this.perm[k]];
			let d = whole;
			for (let p = this.rowPtr[k]; p < this.rowPtr[k + 1]; p++) {
				const j = this.rowCols[p];
				const l = x[j] / L[ptr[j]];
				x[j] = 0;
				for (let q = ptr[j] + 1; q < next[j]; q++) x[row[q]] -= L[q] * l;
				d -= l * l;
				L[next[j]++] = l;
			}
			if (!(d > 1e-14 * whole)) {
				x.fill(0);
				throw new RangeError(`The matrix is not positive definite at place ${this.perm[k]}`);
			}
			L[ptr[k]] = Math.sqrt(d);
			next[k] = ptr[k] + 1;
		}
		return L;
	}

	/** Solves L L^T x = b. @returns x in `out` */
	solve(L: FactorNumbers, b: Float64Array, out: Float64Array): Float64Array {
		const { x, ptr, row, perm } = this;
		const { n } = this.graph;
		for (let k = 0; k < n; k++) x[k] = b[perm[k]];
		for (let k = 0; k < n; k++) {
			const v = (x[k] /= L[ptr[k]]);
			for (let q = ptr[k] + 1; q < ptr[k + 1]; q++) x[row[q]] -= L[q] * v;
		}
		for (let k = n - 1; k >= 0; k--) {
			let v = x[k];
			for (let q = ptr[k] + 1; q < ptr[k + 1]; q++) v -= L[q] * x[row[q]];
			x[k] = v / L[ptr[k]];
		}
		for (let k = 0; k < n; k++) out[perm[k]] = x[k];
		x.fill(0);
		return out;
	}
}
