/** Dense symmetric positive-definite factorisation that can solve on any leading block. Row-major, lower. */
export class DenseCholesky {
	readonly n: number;
	readonly L: Float64Array;

	/** @param a n x n, row-major; only the lower triangle is read. @throws RangeError where it is not positive definite */
	constructor(a: Float64Array, n: number) {
		this.n = n;
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
		const { L, n } = this;
		for (let i = 0; i < m; i++) {
			const r = i * n;
			let s0 = b[4 * i];
			let s1 = b[4 * i + 1];
			let s2 = b[4 * i + 2];
			let s3 = b[4 * i + 3];
			for (let k = 0, q = 0; k < i; k++, q += 4) {
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
