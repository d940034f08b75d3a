import type { Kernel, KernelFactory } from './kernel/kernel';

/** Dense symmetric positive-definite factorisation that can solve on any leading block. Row-major, lower. */
export class DenseCholesky {
	readonly n: number;
	readonly L: Float64Array = new Float64Array(0);
	private readonly compiled?: { kernel: Kernel; L: number; width: number; X: number };

	/**
	 * @param a n x n, row-major; only the lower triangle is read. @param kernel compiled kernels of the host, if it has them
	 * @throws RangeError where it is not positive definite
	 */
	constructor(a: Float64Array, n: number, kernel?: KernelFactory) {
		this.n = n;
		if (kernel) {
			this.compiled = factorCompiled(a, n, kernel());
			return;
		}
		const L = (this.L = new Float64Array(n * n));
		for (let i = 0; i < n; i++) {
			const ri = i * n;
			for (let j = 0; j <= i; j++) {
				const rj = j * n;
				let s0 = a[ri + j];
				let s1 = 0;
				let k = 0;
				for (; k + 1 < j; k += 2) {
					s0 -= L[ri + k] * L[rj + k];
					s1 -= L[ri + k + 1] * L[rj + k + 1];
				}
				if (k < j) s0 -= L[ri + k] * L[rj + k];
				const s = s0 + s1;
				if (i === j) {
					if (!(s > 0)) throw new RangeError(`The matrix is not positive definite at row ${i}`);
					L[ri + i] = Math.sqrt(s);
				} else L[ri + j] = s / L[rj + j];
			}
		}
	}

	/** Solves with the leading m x m block for four right-hand sides side by side: b[4 i + c], overwritten. */
	solveLeading4(b: Float64Array, m: number) {
		this.forward4(b, m);
		this.backward4(b, m);
	}

	/** L y = b on the leading m x m block, four columns side by side, overwritten. @param from b is zero before this row */
	forward4(b: Float64Array, m: number, from = 0) {
		if (this.compiled) {
			const { kernel, L, width, X } = this.compiled;
			kernel.f64(X + 32 * from, 4 * (m - from)).set(b.subarray(4 * from, 4 * m));
			kernel.run.forwardLeading4(L, width, from, m, X);
			b.set(kernel.f64(X + 32 * from, 4 * (m - from)), 4 * from);
			return;
		}
		const { L, n } = this;
		for (let i = from; i < m; i++) {
			const r = i * n;
			let s0 = b[4 * i];
			let s1 = b[4 * i + 1];
			let s2 = b[4 * i + 2];
			let s3 = b[4 * i + 3];
			for (let k = from, q = 4 * from; k < i; k++, q += 4) {
				const l = L[r + k];
				s0 -= l * b[q];
				s1 -= l * b[q + 1];
				s2 -= l * b[q + 2];
				s3 -= l * b[q + 3];
			}
			const inv = 1 / L[r + i];
			b[4 * i] = s0 * inv;
			b[4 * i + 1] = s1 * inv;
			b[4 * i + 2] = s2 * inv;
			b[4 * i + 3] = s3 * inv;
		}
	}

	/** L^T x = y on the leading m x m block, four columns side by side, overwritten. */
	backward4(b: Float64Array, m: number) {
		if (this.compiled) {
			const { kernel, L, width, X } = this.compiled;
			kernel.f64(X, 4 * m).set(b.subarray(0, 4 * m));
			kernel.run.backwardLeading4(L, width, m, X);
			b.set(kernel.f64(X, 4 * m));
			return;
		}
		const { L, n } = this;
		for (let i = m - 1; i >= 0; i--) {
			const r = i * n;
			const inv = 1 / L[r + i];
			const v0 = (b[4 * i] *= inv);
			const v1 = (b[4 * i + 1] *= inv);
			const v2 = (b[4 * i + 2] *= inv);
			const v3 = (b[4 * i + 3] *= inv);
			for (let k = 0, q = 0; k < i; k++, q += 4) {
				const l = L[r + k];
				b[q] -= l * v0;
				b[q + 1] -= l * v1;
				b[q + 2] -= l * v2;
				b[q + 3] -= l * v3;
			}
		}
	}

	/** A row of the factor up to its diagonal. Good until the next factorisation with the same kernel. */
	row(i: number): Float64Array {
		if (!this.compiled) return this.L.subarray(i * this.n, i * this.n + i + 1);
		const { kernel, L, width } = this.compiled;
		return kernel.f64(L + 8 * i * width, i + 1);
	}
}

/**
 * A B^T, row-major. @param A row-major, rows of length k. @param B its rows, each of length k
 * @param kernel compiled kernels of the host, if it has them
 */
export function timesTransposed(A: Float64Array, B: readonly Float64Array[], k: number, kernel?: KernelFactory): Float64Array {
	const rowsA = A.length / k;
	const rowsB = B.length;
	const out = new Float64Array(rowsA * rowsB);
	if (kernel) {
		// sizes in sixes, the rest is zeros
		const [ka, ma, mb] = [k, rowsA, rowsB].map((v) => 6 * Math.ceil(v / 6));
		const host = kernel();
		const a = host.reserve(8 * ma * ka);
		const b = host.reserve(8 * mb * ka);
		const c = host.reserve(8 * ma * mb);
		const [fa, fb] = [host.f64(a, ma * ka), host.f64(b, mb * ka)];
		for (let i = 0; i < rowsA; i++) fa.set(A.subarray(i * k, (i + 1) * k), i * ka);
		B.forEach((v, i) => fb.set(v, i * ka));
		host.run.multiplyTransposed(a, ka, b, ka, c, mb, ma, mb, ka, 0, 0);
		const fc = host.f64(c, ma * mb);
		for (let i = 0; i < rowsA; i++) out.set(fc.subarray(i * mb, i * mb + rowsB), i * rowsB);
		return out;
	}
	for (let i = 0; i < rowsA; i++)
		for (let j = 0; j < rowsB; j++) {
			const b = B[j];
			let s = 0;
			for (let q = 0, p = i * k; q < k; q++, p++) s += A[p] * b[q];
			out[i * rowsB + j] = s;
		}
	return out;
}

/** The kernels want sizes in sixes: the rest is filled up with ones on the diagonal. */
function factorCompiled(a: Float64Array, n: number, kernel: Kernel) {
	const width = 6 * Math.ceil(n / 6);
	const L = kernel.reserve(8 * width * width);
	const sign = kernel.reserve(8 * width);
	const diagonal = kernel.reserve(8 * width);
	const work = kernel.reserve(8 * 24 * width);
	const X = kernel.reserve(32 * width);
	const into = kernel.f64(L, width * width);
	for (let i = 0; i < n; i++) into.set(a.subarray(i * n, i * n + i + 1), i * width);
	for (let i = n; i < width; i++) into[i * width + i] = 1;
	kernel.f64(diagonal, width).fill(1);
	const found = kernel.run.panel(L, width, width, sign, diagonal, 0, work);
	if (found !== 0) throw new RangeError(`The matrix is not positive definite${found < 0 ? ` at row ${-1 - found}` : ''}`);
	return { kernel, L, width, X };
}

/** Solves a small general system by elimination with partial pivoting. a is n x n row-major and is overwritten. */
export function solveSmall(a: Float64Array, b: Float64Array): Float64Array {
	const n = b.length;
	const x = b.slice();
	for (let c = 0; c < n; c++) {
		let p = c;
		for (let r = c + 1; r < n; r++) if (Math.abs(a[r * n + c]) > Math.abs(a[p * n + c])) p = r;
		if (!(Math.abs(a[p * n + c]) > 0)) throw new RangeError('The system is singular');
		if (p !== c) {
			for (let k = 0; k < n; k++) [a[c * n + k], a[p * n + k]] = [a[p * n + k], a[c * n + k]];
			[x[c], x[p]] = [x[p], x[c]];
		}
		for (let r = c + 1; r < n; r++) {
			const f = a[r * n + c] / a[c * n + c];
			for (let k = c; k < n; k++) a[r * n + k] -= f * a[c * n + k];
			x[r] -= f * x[c];
		}
	}
	for (let r = n - 1; r >= 0; r--) {
		for (let k = r + 1; k < n; k++) x[r] -= a[r * n + k] * x[k];
		x[r] /= a[r * n + r];
	}
	return x;
}
