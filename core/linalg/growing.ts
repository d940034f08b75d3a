/**
 * A Cholesky factor that grows by blocks of six rows and carries the answers of some observations along: appending a block
 * costs what is new only, and taking blocks off again costs nothing.
 */
import type { Kernel, KernelFactory } from './kernel/kernel';

const BLOCK = 6;

/**
 * With A the rows so far, `answers[r]` what a unit force on row r does to the observations, and A = L L^T: W = L^-1 answers,
 * so that forces x = A^-1 g move the observations by answers^T x = W^T L^-1 g. What is returned is minus that.
 */
export interface GrowingFactor {
	readonly count: number;
	/** forgets all rows from `count` on */
	back(count: number): void;
	/**
	 * Appends six rows.
	 * @param rows 6 x (count + 6), row-major; of the last six columns the lower triangle is read @param answers 6 x width
	 * @throws RangeError where the matrix is no longer positive definite
	 */
	append(rows: Float64Array, answers: Float64Array): void;
	/** observations for a drive on the last six rows only */
	fromLast(g: readonly number[]): Float64Array;
	/** observations for drives on all rows (each `count` long), up to three at once */
	from(drives: readonly Float64Array[]): Float64Array[];
}

/** @param most rows it will hold at the most, a multiple of six @param width number of observations @param kernel compiled kernels of the host, if it has them */
export const growingFactor = (most: number, width: number, kernel?: KernelFactory): GrowingFactor =>
	kernel ? new Compiled(most, width, kernel()) : new Plain(most, width);

const lost = () => new RangeError('The matrix is not positive definite');

/** Factor of a 6 x 6 block in place, row-major with `stride`. */
function factorBlock(a: Float64Array, first: number, stride: number) {
	for (let i = 0; i < BLOCK; i++) {
		const ri = first + i * stride;
		for (let j = 0; j <= i; j++) {
			const rj = first + j * stride;
			let s = a[ri + j];
			for (let k = 0; k < j; k++) s -= a[ri + k] * a[rj + k];
			if (i === j) {
				if (!(s > 0)) throw lost();
				a[ri + i] = Math.sqrt(s);
			} else a[ri + j] = s / a[rj + j];
		}
	}
}

/** z of a drive on one block: L z = g. */
function throughBlock(L: Float64Array, first: number, stride: number, g: readonly number[]): Float64Array {
	const z = new Float64Array(BLOCK);
	for (let i = 0; i < BLOCK; i++) {
		let s = g[i];
		for (let k = 0; k < i; k++) s -= L[first + i * stride + k] * z[k];
		z[i] = s / L[first + i * stride + i];
	}
	return z;
}

class Plain implements GrowingFactor {
	count = 0;
	private readonly L: Float64Array;
	private readonly W: Float64Array;

	constructor(
		private readonly most: number,
		private readonly width: number
	) {
		this.L = new Float64Array(most * most);
		this.W = new Float64Array(most * width);
	}

	back(count: number) {
		this.count = count;
	}

	append(rows: Float64Array, answers: Float64Array) {
		const { count: n, most, width, L, W } = this;
		const k6 = n + BLOCK;
		for (let i = 0; i < BLOCK; i++) {
			const Li = (n + i) * most;
			for (let j = 0; j < n; j++) {
				const Lj = j * most;
				let s = rows[i * k6 + j];
				for (let k = 0; k < j; k++) s -= L[Li + k] * L[Lj + k];
				L[Li + j] = s / L[Lj + j];
			}
			for (let j = 0; j <= i; j++) {
				const Lj = (n + j) * most;
				let s = rows[i * k6 + n + j];
				for (let k = 0; k < n; k++) s -= L[Li + k] * L[Lj + k];
				L[Li + n + j] = s;
			}
		}
		factorBlock(L, n * most + n, most);
		for (let i = 0; i < BLOCK; i++) {
			const Li = (n + i) * most;
			const w = W.subarray((n + i) * width, (n + i + 1) * width);
			w.set(answers.subarray(i * width, (i + 1) * width));
			for (let k = 0; k < n + i; k++) axpy(w, W.subarray(k * width, (k + 1) * width), -L[Li + k]);
			for (let o = 0; o < width; o++) w[o] /= L[Li + n + i];
		}
		this.count = k6;
	}

	fromLast(g: readonly number[]): Float64Array {
		const { count, most, width, L, W } = this;
		const first = count - BLOCK;
		const out = new Float64Array(width);
		throughBlock(L, first * most + first, most, g).forEach((z, i) => axpy(out, W.subarray((first + i) * width, (first + i + 1) * width), -z));
		return out;
	}

	from(drives: readonly Float64Array[]): Float64Array[] {
		const { count, most, width, L, W } = this;
		return drives.map((g) => {
			const out = new Float64Array(width);
			const z = new Float64Array(count);
			for (let i = 0; i < count; i++) {
				let s = g[i];
				for (let k = 0; k < i; k++) s -= L[i * most + k] * z[k];
				z[i] = s / L[i * most + i];
				axpy(out, W.subarray(i * width, (i + 1) * width), -z[i]);
			}
			return out;
		});
	}
}

/** The same with the compiled kernels; W is kept on its side, so that both products run along rows. */
class Compiled implements GrowingFactor {
	count = 0;
	/** observations filled up to threes, as the kernels want them */
	private readonly wide: number;
	private readonly L: number;
	private readonly Wt: number;
	/** four columns side by side, twice; six rows and three of length `most`; products */
	private readonly X: number;
	private readonly rows: number;
	private readonly product: number;

	constructor(
		private readonly most: number,
		private readonly width: number,
		private readonly kernel: Kernel
	) {
		this.wide = 3 * Math.ceil(width / 3);
		this.L = kernel.reserve(8 * most * most);
		this.Wt = kernel.reserve(8 * this.wide * most);
		this.X = kernel.reserve(64 * most);
		this.rows = kernel.reserve(8 * BLOCK * most);
		this.product = kernel.reserve(8 * BLOCK * this.wide);
	}

	back(count: number) {
		this.count = count;
	}

	append(rows: Float64Array, answers: Float64Array) {
		const { count: n, most, width, wide, kernel } = this;
		const k6 = n + BLOCK;
		const L = kernel.f64(this.L, most * most);
		if (n) {
			// rows of L: L_n x = the new columns, four and two side by side
			const second = this.X + 32 * most;
			const [x, y] = [kernel.f64(this.X, 4 * n), kernel.f64(second, 4 * n)];
			for (let j = 0; j < n; j++) {
				for (let i = 0; i < 4; i++) x[4 * j + i] = rows[i * k6 + j];
				y[4 * j] = rows[4 * k6 + j];
				y[4 * j + 1] = rows[5 * k6 + j];
				y[4 * j + 2] = y[4 * j + 3] = 0;
			}
			kernel.run.forwardLeading4(this.L, most, 0, n, this.X);
			kernel.run.forwardLeading4(this.L, most, 0, n, second);
			for (let j = 0; j < n; j++) {
				for (let i = 0; i < 4; i++) L[(n + i) * most + j] = x[4 * j + i];
				L[(n + 4) * most + j] = y[4 * j];
				L[(n + 5) * most + j] = y[4 * j + 1];
			}
		}
		for (let i = 0; i < BLOCK; i++) for (let j = 0; j <= i; j++) L[(n + i) * most + n + j] = rows[i * k6 + n + j];
		const own = this.L + 8 * n * most;
		// the block less what the rows before it take (its upper half is never read)
		if (n) kernel.run.multiplyTransposed(own, most, own, most, own + 8 * n, most, BLOCK, BLOCK, n, 0, 1);
		factorBlock(L, n * most + n, most);
		const w = kernel.f64(this.product, BLOCK * wide);
		for (let i = 0; i < BLOCK; i++) for (let o = 0; o < width; o++) w[i * wide + o] = answers[i * width + o];
		if (n) kernel.run.multiplyTransposed(own, most, this.Wt, most, this.product, wide, BLOCK, wide, n, 0, 1);
		const Wt = kernel.f64(this.Wt, wide * most);
		for (let i = 0; i < BLOCK; i++) {
			const Li = (n + i) * most + n;
			for (let k = 0; k < i; k++) {
				const f = L[Li + k];
				for (let o = 0; o < width; o++) w[i * wide + o] -= f * w[k * wide + o];
			}
			const pivot = L[Li + i];
			for (let o = 0; o < width; o++) Wt[o * most + n + i] = w[i * wide + o] /= pivot;
		}
		this.count = k6;
	}

	fromLast(g: readonly number[]): Float64Array {
		const { count, most, width } = this;
		const first = count - BLOCK;
		const z = throughBlock(this.kernel.f64(this.L, most * most), first * most + first, most, g);
		const Wt = this.kernel.f64(this.Wt, width * most);
		return Float64Array.from({ length: width }, (_, o) => {
			let s = 0;
			for (let i = 0; i < BLOCK; i++) s -= Wt[o * most + first + i] * z[i];
			return s;
		});
	}

	from(drives: readonly Float64Array[]): Float64Array[] {
		const { count: n, most, width, wide, kernel } = this;
		if (!n) return drives.map(() => new Float64Array(width));
		const x = kernel.f64(this.X, 4 * n);
		x.fill(0);
		drives.forEach((g, c) => {
			for (let i = 0; i < n; i++) x[4 * i + c] = g[i];
		});
		kernel.run.forwardLeading4(this.L, most, 0, n, this.X);
		const z = kernel.f64(this.rows, 3 * n);
		for (let c = 0; c < 3; c++) for (let i = 0; i < n; i++) z[c * n + i] = x[4 * i + c];
		kernel.run.multiplyTransposed(this.rows, n, this.Wt, most, this.product, wide, 3, wide, n, 0, 0);
		const y = kernel.f64(this.product, 3 * wide);
		return drives.map((_, c) => Float64Array.from({ length: width }, (__, o) => -y[c * wide + o]));
	}
}

export function axpy(y: Float64Array, x: Float64Array, f: number) {
	const n = y.length;
	for (let i = 0; i < n; i++) y[i] += f * x[i];
}
