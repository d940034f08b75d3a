/**
 * Left-looking supernodal L S L^T (S = diagonal of signs) for symmetric node-block matrices, without pivoting.
 * The signs give the inertia; a pivot that is tiny against its own diagonal entry stops the factorisation by name.
 */
import type { BlockMatrix } from './blockMatrix';
import { graphOf, minimumDegree, type Graph } from './ordering';
import { analyse, BLOCK, type Symbolic } from './symbolic';

/** A pivot below this share of its original diagonal means the piece can move freely there. */
const PIVOT_FLOOR = 1e-13;

export class SingularError extends Error {
	/** freedom (6 node + direction) where the matrix ran out of stiffness */
	readonly freedom: number;
	constructor(freedom: number) {
		super(`The model can move freely at node ${Math.floor(freedom / BLOCK)}, direction ${freedom % BLOCK}: a part is tied to nothing`);
		this.name = 'SingularError';
		this.freedom = freedom;
	}
}

/** C[m x n] (-)= A[m x k] B[n x k]^T in 3 x 3 tiles; m, n and k are multiples of 6. `lower` skips tiles above the diagonal. */
function multiplyTransposed(A: Float64Array, ao: number, lda: number, B: Float64Array, bo: number, ldb: number, C: Float64Array, co: number, ldc: number, m: number, n: number, k: number, lower: boolean, subtract: boolean) {
	for (let i = 0; i < m; i += 3) {
		const end = lower && i + 3 < n ? i + 3 : n;
		for (let j = 0; j < end; j += 3) {
			let p0 = (ao + i * lda) | 0;
			let p1 = (p0 + lda) | 0;
			let p2 = (p1 + lda) | 0;
			let q0 = (bo + j * ldb) | 0;
			let q1 = (q0 + ldb) | 0;
			let q2 = (q1 + ldb) | 0;
			const e = (p0 + k) | 0;
			let [c00, c01, c02, c10, c11, c12, c20, c21, c22] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
			while (p0 < e) {
				const x = B[q0++];
				const y = B[q1++];
				const z = B[q2++];
				const u = A[p0++];
				c00 += u * x;
				c01 += u * y;
				c02 += u * z;
				const v = A[p1++];
				c10 += v * x;
				c11 += v * y;
				c12 += v * z;
				const w = A[p2++];
				c20 += w * x;
				c21 += w * y;
				c22 += w * z;
			}
			let c = (co + i * ldc + j) | 0;
			if (subtract) {
				C[c] -= c00;
				C[c + 1] -= c01;
				C[c + 2] -= c02;
				c += ldc;
				C[c] -= c10;
				C[c + 1] -= c11;
				C[c + 2] -= c12;
				c += ldc;
				C[c] -= c20;
				C[c + 1] -= c21;
				C[c + 2] -= c22;
			} else {
				C[c] = c00;
				C[c + 1] = c01;
				C[c + 2] = c02;
				c += ldc;
				C[c] = c10;
				C[c + 1] = c11;
				C[c + 2] = c12;
				c += ldc;
				C[c] = c20;
				C[c + 1] = c21;
				C[c + 2] = c22;
			}
		}
	}
}

export class SparseFactor {
	readonly symbolic: Symbolic;
	/** count of negative pivots of the last factorisation */
	negative = 0;
	private readonly panels: Float64Array;
	private readonly sign: Float64Array;

	constructor(graph: Graph) {
		this.symbolic = analyse(graph, minimumDegree(graph));
		this.panels = new Float64Array(this.symbolic.panelSize);
		this.sign = new Float64Array(BLOCK * this.symbolic.n);
	}

	/** Bytes held by the factor. */
	get bytes() {
		return this.panels.byteLength + this.symbolic.rows.byteLength;
	}

	/** @throws SingularError */
	factorise(A: BlockMatrix): this {
		const S = this.symbolic;
		const L = this.panels;
		const { sign } = this;
		const ns = S.start.length - 1;
		this.scatter(A);
		const diagonal = new Float64Array(BLOCK * S.n);
		for (let k = 0; k < S.n; k++) for (let r = 0; r < BLOCK; r++) diagonal[BLOCK * k + r] = Math.abs(L[this.diagonalAt(k, r)]);
		const position = new Int32Array(S.n);
		// lists of finished supernodes that still have rows to give to supernode s
		const head = new Int32Array(ns).fill(-1);
		const next = new Int32Array(ns).fill(-1);
		const offset = new Int32Array(ns);
		const hasNegative = new Uint8Array(ns);
		const product = new Float64Array(BLOCK * BLOCK * S.maxRows * S.maxCols);
		const signed = new Float64Array(BLOCK * BLOCK * S.maxRows * S.maxCols);
		const handOn = (d: number, from: number, rows: number) => {
			offset[d] = from;
			if (from >= rows) return;
			const owner = S.snOf[S.rows[S.rowStart[d] + from]];
			next[d] = head[owner];
			head[owner] = d;
		};
		this.negative = 0;
		for (let s = 0; s < ns; s++) {
			const c0 = S.start[s];
			const c1 = S.start[s + 1];
			const width = BLOCK * (c1 - c0);
			const rows = S.rowStart[s + 1] - S.rowStart[s];
			const panel = S.panelStart[s];
			for (let p = 0; p < rows; p++) position[S.rows[S.rowStart[s] + p]] = p;
			for (let d = head[s]; d !== -1; ) {
				const following = next[d];
				const list = S.rowStart[d];
				const listLength = S.rowStart[d + 1] - list;
				const from = offset[d];
				let to = from;
				while (to < listLength && S.rows[list + to] < c1) to++;
				const m = listLength - from;
				const n = to - from;
				const k = BLOCK * (S.start[d + 1] - S.start[d]);
				const source = S.panelStart[d] + BLOCK * from * k;
				let B = L;
				let bo = source;
				if (hasNegative[d]) {
					const s0 = BLOCK * S.start[d];
					for (let r = 0; r < BLOCK * n; r++) for (let c = 0; c < k; c++) signed[r * k + c] = L[source + r * k + c] * sign[s0 + c];
					B = signed;
					bo = 0;
				}
				const ldc = BLOCK * n;
				multiplyTransposed(L, source, k, B, bo, k, product, 0, ldc, BLOCK * m, ldc, k, true, false);
				for (let p = 0; p < m; p++) {
					const target = panel + BLOCK * position[S.rows[list + from + p]] * width;
					for (let q = 0, last = p < n ? p + 1 : n; q < last; q++) {
						let t = target + BLOCK * (S.rows[list + from + q] - c0);
						let f = BLOCK * p * ldc + BLOCK * q;
						for (let r = 0; r < BLOCK; r++, t += width, f += ldc) {
							L[t] -= product[f];
							L[t + 1] -= product[f + 1];
							L[t + 2] -= product[f + 2];
							L[t + 3] -= product[f + 3];
							L[t + 4] -= product[f + 4];
							L[t + 5] -= product[f + 5];
						}
					}
				}
				handOn(d, to, listLength);
				d = following;
			}
			const negative = this.factorPanel(panel, BLOCK * rows, width, BLOCK * c0, diagonal);
			hasNegative[s] = negative ? 1 : 0;
			this.negative += negative;
			handOn(s, c1 - c0, rows);
		}
		return this;
	}

	private diagonalAt(node: number, r: number) {
		const S = this.symbolic;
		const s = S.snOf[node];
		const width = BLOCK * (S.start[s + 1] - S.start[s]);
		const row = BLOCK * (node - S.start[s]) + r;
		return S.panelStart[s] + row * width + row;
	}

	private scatter(A: BlockMatrix) {
		const S = this.symbolic;
		const L = this.panels;
		L.fill(0);
		const byOwner: number[][] = Array.from({ length: S.start.length - 1 }, () => []);
		for (let i = 0; i < A.n; i++)
			for (let p = A.ptr[i]; p < A.ptr[i + 1]; p++) {
				const a = S.inverse[i];
				const b = S.inverse[A.col[p]];
				byOwner[S.snOf[Math.min(a, b)]].push(p, a, b);
			}
		const position = new Int32Array(S.n);
		byOwner.forEach((list, s) => {
			for (let p = S.rowStart[s]; p < S.rowStart[s + 1]; p++) position[S.rows[p]] = p - S.rowStart[s];
			const width = BLOCK * (S.start[s + 1] - S.start[s]);
			for (let z = 0; z < list.length; z += 3) {
				const [p, a, b] = [list[z], list[z + 1], list[z + 2]];
				const target = S.panelStart[s] + BLOCK * position[Math.max(a, b)] * width + BLOCK * (Math.min(a, b) - S.start[s]);
				const [rs, cs] = a < b ? [1, BLOCK] : [BLOCK, 1]; // the block is stored for (i, j); turned where the order turned
				for (let r = 0; r < BLOCK; r++) for (let c = 0; c < BLOCK; c++) L[target + r * width + c] += A.val[BLOCK * BLOCK * p + r * rs + c * cs];
			}
		});
	}

	/** Dense factorisation of one panel, column block by column block. */
	private factorPanel(panel: number, rows: number, width: number, first: number, diagonal: Float64Array): number {
		const L = this.panels;
		const { sign } = this;
		const STEP = 24;
		let negative = 0;
		const signed = new Float64Array(STEP * width);
		const lower = new Float64Array(STEP * STEP);
		const three = new Float64Array(3 * STEP);
		for (let j = 0; j < width; j += STEP) {
			const nb = Math.min(STEP, width - j);
			const D = panel + j * width + j;
			if (j) {
				let B = L;
				let bo = panel + j * width;
				let ldb = width;
				if (negative) {
					for (let r = 0; r < nb; r++) for (let c = 0; c < j; c++) signed[r * j + c] = L[panel + (j + r) * width + c] * sign[first + c];
					[B, bo, ldb] = [signed, 0, j];
				}
				multiplyTransposed(L, panel + j * width, width, B, bo, ldb, L, D, width, rows - j, nb, j, false, true);
			}
			for (let c = 0; c < nb; c++) {
				const a = D + c * width;
				for (let q = 0; q < c; q++) {
					const b = D + q * width;
					let sum = L[a + q];
					for (let t = 0; t < q; t++) sum -= L[a + t] * L[b + t] * sign[first + j + t];
					L[a + q] = (sum * sign[first + j + q]) / L[b + q];
				}
				let d = L[a + c];
				for (let t = 0; t < c; t++) d -= L[a + t] * L[a + t] * sign[first + j + t];
				const index = first + j + c;
				if (!(Math.abs(d) > PIVOT_FLOOR * diagonal[index])) throw new SingularError(BLOCK * this.symbolic.perm[Math.floor(index / BLOCK)] + (index % BLOCK));
				if (d < 0) {
					negative++;
					sign[index] = -1;
					d = -d;
				} else sign[index] = 1;
				L[a + c] = Math.sqrt(d);
			}
			// inverse of the small triangle, then every row below times its transpose
			lower.fill(0);
			for (let c = 0; c < nb; c++) {
				lower[c * STEP + c] = 1 / L[D + c * width + c];
				for (let r = c + 1; r < nb; r++) {
					let sum = 0;
					for (let t = c; t < r; t++) sum += L[D + r * width + t] * lower[t * STEP + c];
					lower[r * STEP + c] = -sum / L[D + r * width + r];
				}
			}
			for (let r = 0; r < nb; r++) if (sign[first + j + r] < 0) for (let c = 0; c <= r; c++) lower[r * STEP + c] = -lower[r * STEP + c];
			for (let i = j + nb; i < rows; i += 3) {
				const R = panel + i * width + j;
				for (let r = 0; r < 3; r++) for (let c = 0; c < nb; c++) three[r * STEP + c] = L[R + r * width + c];
				multiplyTransposed(three, 0, STEP, lower, 0, STEP, L, R, width, 3, nb, nb, false, false);
			}
		}
		return negative;
	}

	/** Solves for `count` right-hand sides held side by side: b[freedom * count + c]. Returns the same layout. */
	solveMany(b: Float64Array, count: number): Float64Array {
		const S = this.symbolic;
		const L = this.panels;
		const { sign } = this;
		const ns = S.start.length - 1;
		const X = new Float64Array(b.length);
		const w = BLOCK * count;
		for (let k = 0; k < S.n; k++) X.set(b.subarray(w * S.perm[k], w * S.perm[k] + w), w * k);
		const row = new Float64Array(count);
		for (let s = 0; s < ns; s++) {
			const x0 = BLOCK * S.start[s] * count;
			const width = BLOCK * (S.start[s + 1] - S.start[s]);
			let P = S.panelStart[s];
			for (let j = 0; j < width; j++, P += width) {
				const xj = x0 + j * count;
				for (let c = 0; c < count; c++) row[c] = X[xj + c];
				for (let t = 0; t < j; t++) {
					const l = L[P + t];
					const xt = x0 + t * count;
					for (let c = 0; c < count; c++) row[c] -= l * X[xt + c];
				}
				const inv = 1 / L[P + j];
				for (let c = 0; c < count; c++) X[xj + c] = row[c] * inv;
			}
			for (let p = S.rowStart[s] + width / BLOCK; p < S.rowStart[s + 1]; p++) {
				const y = w * S.rows[p];
				for (let r = 0; r < BLOCK; r++, P += width) {
					row.fill(0);
					for (let t = 0; t < width; t++) {
						const l = L[P + t];
						const xt = x0 + t * count;
						for (let c = 0; c < count; c++) row[c] += l * X[xt + c];
					}
					for (let c = 0; c < count; c++) X[y + r * count + c] -= row[c];
				}
			}
		}
		for (let s = ns - 1; s >= 0; s--) {
			const first = BLOCK * S.start[s];
			const x0 = first * count;
			const width = BLOCK * (S.start[s + 1] - S.start[s]);
			for (let j = 0; j < width; j++) if (sign[first + j] < 0) for (let c = 0; c < count; c++) X[x0 + j * count + c] = -X[x0 + j * count + c];
			let P = S.panelStart[s] + width * width;
			for (let p = S.rowStart[s] + width / BLOCK; p < S.rowStart[s + 1]; p++) {
				const y = w * S.rows[p];
				for (let r = 0; r < BLOCK; r++, P += width) {
					for (let c = 0; c < count; c++) row[c] = X[y + r * count + c];
					for (let t = 0; t < width; t++) {
						const l = L[P + t];
						const xt = x0 + t * count;
						for (let c = 0; c < count; c++) X[xt + c] -= l * row[c];
					}
				}
			}
			for (let j = width - 1; j >= 0; j--) {
				const q = S.panelStart[s] + j * width;
				const inv = 1 / L[q + j];
				const xj = x0 + j * count;
				for (let c = 0; c < count; c++) X[xj + c] *= inv;
				for (let t = 0; t < j; t++) {
					const l = L[q + t];
					const xt = x0 + t * count;
					for (let c = 0; c < count; c++) X[xt + c] -= l * X[xj + c];
				}
			}
		}
		const out = new Float64Array(b.length);
		for (let k = 0; k < S.n; k++) out.set(X.subarray(w * k, w * k + w), w * S.perm[k]);
		return out;
	}

	solve(b: Float64Array): Float64Array {
		return this.solveMany(b, 1);
	}
}

export { graphOf };
