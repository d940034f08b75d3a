/**
 * Symmetric positive definite band matrices by rows, a[i (b + 1) + j - i + b] for j = i - b .. i, and their Cholesky factor in place
 * (Golub & Van Loan, Matrix Computations, 4.3.5, from memory). The diagonal of the factor holds its reciprocal. With a kernel the same
 * by compiled code.
 */
import type { KernelFactory, KernelExports } from './kernel/kernel';

export class BandMatrix {
	/** (n (b + 1)) numbers */
	readonly values: Float64Array;
	private readonly compiled: { run: KernelExports; a: number; work: number; x: number; right: Float64Array } | null = null;

	/** @param n rows; @param b how far below the diagonal there are numbers */
	constructor(
		readonly n: number,
		readonly b: number,
		kernel?: KernelFactory
	) {
		const size = n * (b + 1);
		if (!kernel) {
			this.values = new Float64Array(size);
			return;
		}
		const k = kernel();
		// the kernel works on pairs: a number more at the ends
		const a = k.reserve(8 * (size + 2));
		const work = k.reserve(8 * (4 * (b + 4) + 2));
		const x = k.reserve(8 * (n + 2));
		this.values = k.f64(a, size);
		this.compiled = { run: k.run, a, work, x, right: k.f64(x, n) };
	}

	/** Factorises in place. @returns how many pivots were not positive; such a place does not move */
	factorise(): number {
		const { values: a, n, b, compiled } = this;
		if (compiled) return compiled.run.bandFactor(compiled.a, n, b, compiled.work);
		const w = b + 1;
		let bad = 0;
		for (let i = 0; i < n; i++) {
			const ri = i * w + b - i;
			const first = i > b ? i - b : 0;
			let d = a[ri + i];
			for (let j = first; j < i; j++) {
				const rj = j * w + b - j;
				let k = j - b > first ? j - b : first;
				let s0 = a[ri + j];
				let [s1, s2, s3] = [0, 0, 0];
				for (; k + 3 < j; k += 4) {
					s0 -= a[ri + k] * a[rj + k];
					s1 -= a[ri + k + 1] * a[rj + k + 1];
					s2 -= a[ri + k + 2] * a[rj + k + 2];
					s3 -= a[ri + k + 3] * a[rj + k + 3];
				}
				for (; k < j; k++) s0 -= a[ri + k] * a[rj + k];
				const l = (s0 + s1 + s2 + s3) * a[rj + j];
				a[ri + j] = l;
				d -= l * l;
			}
			if (!(d > 0)) {
				bad++;
				d = 1e30;
			}
			a[ri + i] = 1 / Math.sqrt(d);
		}
		return bad;
	}

	/** Solves with the factor, in place. */
	solve(x: Float64Array): void {
		const { values: a, n, b, compiled } = this;
		if (compiled) {
			compiled.right.set(x);
			compiled.run.bandSolve(compiled.a, n, b, compiled.x);
			x.set(compiled.right);
			return;
		}
		const w = b + 1;
		for (let i = 0; i < n; i++) {
			const ri = i * w + b - i;
			let s = x[i];
			for (let k = i > b ? i - b : 0; k < i; k++) s -= a[ri + k] * x[k];
			x[i] = s * a[ri + i];
		}
		for (let i = n - 1; i >= 0; i--) {
			const ri = i * w + b - i;
			const v = x[i] * a[ri + i];
			x[i] = v;
			for (let k = i > b ? i - b : 0; k < i; k++) x[k] -= a[ri + k] * v;
		}
	}
}
