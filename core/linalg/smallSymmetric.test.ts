import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lowerFactor, symmetricEigen } from './smallSymmetric';

const N = 5;
const entries = fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: N * N, maxLength: N * N });
/** G G^T, symmetric and not negative */
const product = (g: number[]) =>
	Float64Array.from({ length: N * N }, (_, i) => {
		const [r, c] = [Math.floor(i / N), i % N];
		return Array.from({ length: N }, (_, k) => g[r * N + k] * g[c * N + k]).reduce((s, x) => s + x, 0);
	});
const times = (m: ArrayLike<number>, x: number[]) => x.map((_, r) => x.reduce((s, v, c) => s + m[r * N + c] * v, 0));
const column = (m: Float64Array, c: number) => Array.from({ length: N }, (_, r) => m[r * N + c]);

describe('small symmetric matrices', () => {
	it('the factor times itself is the matrix, also where it is singular', () =>
		fc.assert(
			fc.property(entries, fc.boolean(), (g, isSingular) => {
				if (isSingular) for (let k = 0; k < N; k++) g[2 * N + k] = g[k];
				const a = product(g);
				const l = lowerFactor(a, N);
				for (let i = 0; i < N; i++)
					for (let j = 0; j <= i; j++) {
						let s = 0;
						for (let k = 0; k <= j; k++) s += l[i * N + k] * l[j * N + k];
						expect(Math.abs(s - a[i * N + j])).toBeLessThan(2e-5);
					}
			}),
			{ seed: 3, numRuns: 60 }
		));
	it('eigenvalues of the second difference are 2 - 2 cos(k pi / (n + 1)) (closed form)', () => {
		const a = Float64Array.from({ length: N * N }, (_, i) => {
			const d = Math.abs(Math.floor(i / N) - (i % N));
			return d === 0 ? 2 : d === 1 ? -1 : 0;
		});
		const { values } = symmetricEigen(a, N);
		[...values].sort((x, y) => x - y).forEach((v, k) => expect(v).toBeCloseTo(2 - 2 * Math.cos(((k + 1) * Math.PI) / (N + 1)), 12));
	});
	it('each value and vector satisfy their equation', () =>
		fc.assert(
			fc.property(entries, (g) => {
				const b = product(g);
				const { values, vectors } = symmetricEigen(b, N);
				for (let c = 0; c < N; c++) {
					const q = column(vectors, c);
					times(b, q).forEach((x, i) => expect(Math.abs(x - values[c] * q[i])).toBeLessThan(1e-8));
				}
			}),
			{ seed: 4, numRuns: 60 }
		));
});
