import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveSmall } from './dense';
import { graphOf, type Graph } from './ordering';
import { PatternCholesky } from './patternCholesky';
import { uniformFrom } from './random';

/** Some of the places tied at random: no need to be connected. */
function network(n: number, seed: number): { graph: Graph; values: Float64Array; sum: Float64Array; next: () => number } {
	const next = uniformFrom(seed);
	const ties = Array.from({ length: 2 * n }, () => [Math.floor(next() * n), Math.floor(next() * n)]).filter(([a, b]) => a !== b);
	const graph = graphOf(n, ties);
	const values = new Float64Array(graph.ind.length);
	const sum = new Float64Array(n);
	for (let i = 0; i < n; i++)
		for (let p = graph.ptr[i]; p < graph.ptr[i + 1]; p++) {
			const j = graph.ind[p];
			// the same value from both ends; some of the other sign, as obtuse triangles have
			const k = 1 + Math.sin(Math.min(i, j) * 31 + Math.max(i, j)) * 1.2;
			values[p] = -k;
			sum[i] += Math.abs(k);
		}
	return { graph, values, sum, next };
}
const dense = ({ n, ptr, ind }: Graph, diagonal: Float64Array, values: Float64Array) => {
	const a = new Float64Array(n * n);
	for (let i = 0; i < n; i++) {
		a[i * n + i] = diagonal[i];
		for (let p = ptr[i]; p < ptr[i + 1]; p++) a[i * n + ind[p]] = values[p];
	}
	return a;
};

describe('Cholesky factors of one pattern', () => {
	it('solve what elimination solves, each diagonal its own, in any sequence of solving (two routes)', () =>
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
				const { graph, values, sum, next } = network(n, seed);
				const pattern = new PatternCholesky(graph);
				const diagonals = [0.3, 5, 0.3].map((extra) => sum.map((s) => s + extra * (1 + next())));
				const factors = diagonals.map((d) => pattern.factorise(d, values));
				for (const i of [2, 0, 1]) {
					const b = Float64Array.from({ length: n }, () => next() - 0.5);
					const x = pattern.solve(factors[i], b, new Float64Array(n));
					solveSmall(dense(graph, diagonals[i], values), b.slice()).forEach((v, k) => expect(x[k]).toBeCloseTo(v, 9));
				}
			}),
			{ numRuns: 60 }
		));
	it('the answer may be written over the question', () => {
		const { graph, values, sum } = network(12, 7);
		const pattern = new PatternCholesky(graph);
		const L = pattern.factorise(
			sum.map((s) => s + 1),
			values
		);
		const b = Float64Array.from({ length: 12 }, (_, i) => Math.cos(i));
		const apart = pattern.solve(L, b, new Float64Array(12));
		expect(pattern.solve(L, b, b)).toEqual(apart);
	});
	it('fills in little on a sheet: a square of 30 x 30 places in a minimum degree order', () => {
		const m = 30;
		const ties = Array.from({ length: m * m }, (_, k) => [...(k % m < m - 1 ? [[k, k + 1]] : []), ...(k < m * (m - 1) ? [[k, k + m]] : [])]).flat();
		const pattern = new PatternCholesky(graphOf(m * m, ties));
		// nested dissection of an n x n grid has about 31/4 n^2 log2 n numbers (George 1973, SIAM J. Numer. Anal. 10, 345-363)
		expect(pattern.size).toBeLessThan(7.75 * m * m * Math.log2(m));
		expect(pattern.size).toBeGreaterThan(3 * m * m);
	});
	it('a matrix that is not positive definite is refused by place, and the next one is solved all the same', () => {
		const graph = graphOf(3, [
			[0, 1],
			[1, 2]
		]);
		const pattern = new PatternCholesky(graph);
		const values = new Float64Array(4).fill(-1);
		expect(() => pattern.factorise(Float64Array.of(1, 1, 1), values)).toThrow(/not positive definite at place/);
		expect(() => pattern.factorise(Float64Array.of(1, NaN, 1), values)).toThrow(RangeError);
		const x = pattern.solve(pattern.factorise(Float64Array.of(2, 2, 2), values), Float64Array.of(1, 0, 1), new Float64Array(3));
		[1, 1, 1].forEach((v, i) => expect(x[i]).toBeCloseTo(v, 12));
	});
});
