/** Band matrices by the compiled kernel and without, against what they were made from. */
import { describe, expect, it } from 'vitest';
import { BandMatrix } from './band';
import { kernelFactory } from './kernel/kernel';

const factory = kernelFactory(WebAssembly);

/** a matrix with a strong diagonal, and the same in full */
function fill(m: BandMatrix): number[][] {
	const full = Array.from({ length: m.n }, () => new Array<number>(m.n).fill(0));
	for (let i = 0; i < m.n; i++)
		for (let j = Math.max(0, i - m.b); j <= i; j++) {
			const v = i === j ? 2 * m.b + 3 + (i % 5) : Math.sin(7 * i + 3 * j);
			m.values[i * (m.b + 1) + j - i + m.b] = v;
			full[i][j] = full[j][i] = v;
		}
	return full;
}

describe.each([
	['plain', undefined],
	['compiled', factory]
] as const)('a band matrix, %s', (_, kernel) => {
	it.each([
		[1, 0],
		[2, 1],
		[7, 3],
		[9, 8],
		[40, 5],
		[123, 35],
		[122, 34],
		[4, 3],
		[5, 1]
	])('of %i rows and %i below the diagonal solves what it was made for', (n, b) => {
		const m = new BandMatrix(n, b, kernel);
		const full = fill(m);
		const wanted = Float64Array.from({ length: n }, (_, i) => Math.cos(i) + 2);
		const x = Float64Array.from({ length: n }, (_, i) => full[i].reduce((s, v, j) => s + v * wanted[j], 0));
		expect(m.factorise()).toBe(0);
		m.solve(x);
		for (let i = 0; i < n; i++) expect(x[i]).toBeCloseTo(wanted[i], 10);
	});
	it('counts the pivots that are not positive and holds their places still', () => {
		const m = new BandMatrix(6, 2, kernel);
		fill(m);
		m.values[3 * 3 + 2] = -50;
		expect(m.factorise()).toBe(1);
		const x = new Float64Array(6).fill(1);
		m.solve(x);
		expect(Math.abs(x[3])).toBeLessThan(1e-12);
	});
});
