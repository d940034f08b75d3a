/** The numeric kernels in TypeScript: what the compiled ones are checked against, and what runs where there are none. */
import type { BlockMatrix } from './blockMatrix';
import { PIVOT_FLOOR, SingularError, type Numeric } from './numeric';
import { BLOCK, type Symbolic } from './symbolic';

/** C[m x n] (-)= A[m x k] B[n x k]^T in 3 x 3 tiles; m, n and k are multiples of 6. `lower` skips tiles above the diagonal. */
function multiplyTransposed(
	A: Float64Array,
	ao: number,
	lda: number,
	B: Float64Array,
	bo: number,
	ldb: number,
	C: Float64Array,
	co: number,
	ldc: number,
	m: number,
	n: number,
	k: number,
	lower: boolean,
	subtract: boolean
) {
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

export class TypeScriptNumeric implements Numeric {
	negative = 0;
	readonly X: Float64Array;
	readonly touched: Uint8Array;
	readonly sign: Float64Array;
	private readonly panels: Float64Array;

	constructor(private readonly symbolic: Symbolic) {
		this.panels = new Float64Array(symbolic.panelSize);
		this.sign = new Float64Array(BLOCK * symbolic.n);
		this.X = new Float64Array(4 * BLOCK * symbolic.n);
		this.touched = new Uint8Array(symbolic.n);
	}

	get bytes() {
		return this.panels.byteLength + this.symbolic.rows.byteLength;
	}

	/** @throws SingularError */
	factorise(A: BlockMatrix) {
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
			for (let d = head[s]; d !== -1;) {
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
	// eslint-disable-next-line complexity -- a kernel: its loops share every array
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
				if (!(Math.abs(d) > PIVOT_FLOOR * diagonal[index]))
					throw new SingularError(BLOCK * this.symbolic.perm[Math.floor(index / BLOCK)] + (index % BLOCK));
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

	/** L y = b for four columns at once. Supernodes no load has reached yet are passed over: weld loads are local. */
	forward4() {
		const { X, touched } = this;
		const S = this.symbolic;
		const L = this.panels;
		for (let s = 0; s < S.start.length - 1; s++) {
			let any = 0;
			for (let k = S.start[s]; k < S.start[s + 1]; k++) any |= touched[k];
			if (!any) continue;
			const x0 = (4 * BLOCK * S.start[s]) | 0;
			const width = (BLOCK * (S.start[s + 1] - S.start[s])) | 0;
			let P = S.panelStart[s] | 0;
			for (let j = 0; j < width; j++, P += width) {
				const xj = x0 + 4 * j;
				let a = X[xj];
				let b = X[xj + 1];
				let c = X[xj + 2];
				let d = X[xj + 3];
				for (let t = 0, x = x0; t < j; t++, x += 4) {
					const l = L[P + t];
					a -= l * X[x];
					b -= l * X[x + 1];
					c -= l * X[x + 2];
					d -= l * X[x + 3];
				}
				const inv = 1 / L[P + j];
				X[xj] = a * inv;
				X[xj + 1] = b * inv;
				X[xj + 2] = c * inv;
				X[xj + 3] = d * inv;
			}
			for (let p = S.rowStart[s] + width / BLOCK; p < S.rowStart[s + 1]; p++) {
				const row = S.rows[p];
				touched[row] = 1;
				for (let y = (4 * BLOCK * row) | 0, e = y + 4 * BLOCK; y < e; y += 12, P += 3 * width) {
					let a = 0;
					let b = 0;
					let c = 0;
					let d = 0;
					let f = 0;
					let g = 0;
					let h = 0;
					let i = 0;
					let j = 0;
					let k = 0;
					let l = 0;
					let m = 0;
					let q0 = P | 0;
					let q1 = (q0 + width) | 0;
					let q2 = (q1 + width) | 0;
					for (let x = x0, end = x0 + 4 * width; x < end; x += 4, q0++, q1++, q2++) {
						const u = X[x];
						const v = X[x + 1];
						const w = X[x + 2];
						const z = X[x + 3];
						const r = L[q0];
						a += r * u;
						b += r * v;
						c += r * w;
						d += r * z;
						const t = L[q1];
						f += t * u;
						g += t * v;
						h += t * w;
						i += t * z;
						const o = L[q2];
						j += o * u;
						k += o * v;
						l += o * w;
						m += o * z;
					}
					X[y] -= a;
					X[y + 1] -= b;
					X[y + 2] -= c;
					X[y + 3] -= d;
					X[y + 4] -= f;
					X[y + 5] -= g;
					X[y + 6] -= h;
					X[y + 7] -= i;
					X[y + 8] -= j;
					X[y + 9] -= k;
					X[y + 10] -= l;
					X[y + 11] -= m;
				}
			}
		}
	}

	/** S L^T x = y for four columns at once. */
	backward4() {
		const { X } = this;
		const S = this.symbolic;
		const L = this.panels;
		for (let s = S.start.length - 2; s >= 0; s--) {
			const first = BLOCK * S.start[s];
			const x0 = (4 * first) | 0;
			const width = (BLOCK * (S.start[s + 1] - S.start[s])) | 0;
			for (let j = 0; j < width; j++) if (this.sign[first + j] < 0) for (let c = 0; c < 4; c++) X[x0 + 4 * j + c] = -X[x0 + 4 * j + c];
			let P = (S.panelStart[s] + width * width) | 0;
			for (let p = S.rowStart[s] + width / BLOCK; p < S.rowStart[s + 1]; p++)
				for (let y = (4 * BLOCK * S.rows[p]) | 0, e = y + 4 * BLOCK; y < e; y += 12, P += 3 * width) {
					const a = X[y];
					const b = X[y + 1];
					const c = X[y + 2];
					const d = X[y + 3];
					const f = X[y + 4];
					const g = X[y + 5];
					const h = X[y + 6];
					const i = X[y + 7];
					const j = X[y + 8];
					const k = X[y + 9];
					const l = X[y + 10];
					const m = X[y + 11];
					let q0 = P | 0;
					let q1 = (q0 + width) | 0;
					let q2 = (q1 + width) | 0;
					for (let x = x0, end = x0 + 4 * width; x < end; x += 4, q0++, q1++, q2++) {
						const r = L[q0];
						const t = L[q1];
						const o = L[q2];
						X[x] -= r * a + t * f + o * j;
						X[x + 1] -= r * b + t * g + o * k;
						X[x + 2] -= r * c + t * h + o * l;
						X[x + 3] -= r * d + t * i + o * m;
					}
				}
			for (let j = width - 1; j >= 0; j--) {
				const q = S.panelStart[s] + j * width;
				const inv = 1 / L[q + j];
				const xj = x0 + 4 * j;
				const a = (X[xj] *= inv);
				const b = (X[xj + 1] *= inv);
				const c = (X[xj + 2] *= inv);
				const d = (X[xj + 3] *= inv);
				for (let t = 0, x = x0; t < j; t++, x += 4) {
					const l = L[q + t];
					X[x] -= l * a;
					X[x + 1] -= l * b;
					X[x + 2] -= l * c;
					X[x + 3] -= l * d;
				}
			}
		}
	}

	square(V: Float64Array, signed: Float64Array, rows: number, width: number): Float64Array {
		const P = new Float64Array(rows * rows);
		multiplyTransposed(V, 0, width, signed, 0, width, P, 0, rows, rows, rows, width, true, false);
		return P;
	}
}
