/** Small dense symmetric matrices, row-major: factor, eigenvalues by Jacobi rotations, and the pair of both. */

/**
 * Lower Cholesky factor of a positive semi-definite matrix. @param least pivots below it are taken as it: with nothing, a row that
 * brings nothing new stays empty
 */
export function lowerFactor(a: ArrayLike<number>, n: number, least = 0): Float64Array {
	const l = new Float64Array(n * n);
	for (let i = 0; i < n; i++)
		for (let j = 0; j <= i; j++) {
			let s = a[i * n + j];
			for (let k = 0; k < j; k++) s -= l[i * n + k] * l[j * n + k];
			if (i === j) l[i * n + i] = Math.sqrt(Math.max(least, s));
			else l[i * n + j] = l[j * n + j] > 0 ? s / l[j * n + j] : 0;
		}
	return l;
}

/** Sweeps after which the rotations have always settled. */
const MOST_SWEEPS = 60;

/** All eigenvalues and vectors of a symmetric matrix, in no order. Vectors are columns. */
export function symmetricEigen(a: ArrayLike<number>, m: number): { values: Float64Array; vectors: Float64Array } {
	const c = Float64Array.from({ length: m * m }, (_, i) => a[i]);
	const v = new Float64Array(m * m);
	for (let i = 0; i < m; i++) v[i * m + i] = 1;
	for (let sweep = 0; sweep < MOST_SWEEPS; sweep++) {
		let [off, top] = [0, 0];
		for (let p = 0; p < m; p++) {
			for (let q = 0; q < p; q++) off = Math.max(off, Math.abs(c[p * m + q]));
			top = Math.max(top, Math.abs(c[p * m + p]));
		}
		if (off <= 1e-15 * top) break;
		for (let p = 1; p < m; p++) for (let q = 0; q < p; q++) if (Math.abs(c[p * m + q]) >= 1e-300) rotate(c, v, m, p, q);
	}
	return { values: Float64Array.from({ length: m }, (_, i) => c[i * m + i]), vectors: v };
}

/** The rotation that empties one pair of places. */
function rotate(c: Float64Array, v: Float64Array, m: number, p: number, q: number) {
	const theta = (c[q * m + q] - c[p * m + p]) / (2 * c[p * m + q]);
	const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
	const cos = 1 / Math.sqrt(t * t + 1);
	const sin = t * cos;
	/** columns p and q, `step` apart from row to row */
	const turn = (x: Float64Array, atP: number, atQ: number, step: number) => {
		for (let k = 0; k < m; k++) {
			const [a, b] = [x[atP + k * step], x[atQ + k * step]];
			x[atP + k * step] = cos * a - sin * b;
			x[atQ + k * step] = sin * a + cos * b;
		}
	};
	turn(c, p, q, m);
	turn(c, p * m, q * m, 1);
	turn(v, p, q, m);
}
