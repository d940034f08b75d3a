import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BlockMatrix } from './blockMatrix';
import { DenseCholesky, solveSmall, timesTransposed } from './dense';
import { growingFactor } from './growing';
import { graphOf, minimumDegree } from './ordering';
import { kernelFactory } from './kernel/kernel';
import { uniformFrom } from './random';
import { SingularError, SparseFactor } from './supernodal';

const kernel = kernelFactory(WebAssembly);

/** A random connected node graph with a symmetric block matrix on it; `shift` makes it definite or not. */
function random(n: number, seed: number, shift: number) {
	let s = seed;
	const next = () => (s = (s * 1103515245 + 12345) % 2147483648) / 2147483648 - 0.5;
	const cliques: number[][] = [];
	for (let i = 1; i < n; i++) cliques.push([i, Math.floor((next() + 0.5) * i)]);
	for (let k = 0; k < n; k++) cliques.push([Math.floor((next() + 0.5) * n), Math.floor((next() + 0.5) * n)]);
	const graph = graphOf(
		n,
		cliques.filter(([a, b]) => a !== b)
	);
	const A = new BlockMatrix(graph);
	for (let i = 0; i < n; i++)
		for (let p = A.ptr[i]; p < A.ptr[i + 1]; p++)
			for (let r = 0; r < 6; r++)
				for (let c = 0; c < 6; c++) {
					if (A.col[p] === i && c > r) continue;
					const v = next() + (A.col[p] === i && r === c ? shift : 0);
					A.val[36 * p + 6 * r + c] = v;
					if (A.col[p] === i) A.val[36 * p + 6 * c + r] = v;
				}
	return { graph, A, next };
}

describe('sparse factor', () => {
	it('solves what a dense solver solves, definite or not, for many sides at once (two routes)', () =>
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 30 }), fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(40, 3), (n, seed, shift) => {
				const { graph, A, next } = random(n, seed, shift);
				const count = 3;
				const b = Float64Array.from({ length: 6 * n * count }, next);
				const x = new SparseFactor(graph).factorise(A).solveMany(b, count);
				for (let c = 0; c < count; c++) {
					const r = A.multiply(Float64Array.from({ length: 6 * n }, (_, i) => x[i * count + c]));
					for (let i = 0; i < r.length; i++) expect(Math.abs(r[i] - b[i * count + c])).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 40 }
		));
	it('compiled and TypeScript kernels agree to 1e-8, definite ones to 1e-11: solutions, inertia, Gram matrix, singular place', () =>
		fc.assert(
			fc.property(fc.integer({ min: 2, max: 60 }), fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(40, 3), (n, seed, shift) => {
				const { graph, A, next } = random(n, seed, shift);
				const [plain, compiled] = [new SparseFactor(graph).factorise(A), new SparseFactor(graph, kernel).factorise(A)];
				expect(compiled.negative).toBe(plain.negative);
				const b = Float64Array.from({ length: 30 * n }, next);
				const [x, y] = [plain.solveMany(b, 5), compiled.solveMany(b, 5)];
				const size = Math.max(...x.map(Math.abs));
				// indefinite without pivoting loses digits in both alike: now and then one of forty is 1.1e-9 apart
				x.forEach((v, i) => expect(Math.abs(v - y[i]) / size).toBeLessThan(shift > 10 ? 1e-11 : 1e-8));
				const columns = Array.from({ length: 7 }, (_, i) => ({ at: [i, (11 * i) % (6 * n)], v: [1, 0.3] }));
				const [g, h] = [plain.gram(columns), compiled.gram(columns)];
				const top = Math.max(...g.map(Math.abs));
				g.forEach((v, i) => expect(Math.abs(v - h[i]) / top).toBeLessThan(shift > 10 ? 1e-11 : 1e-8));
			}),
			{ numRuns: 40 }
		));
	it('the compiled kernel names the same singular freedom', () => {
		const graph = graphOf(3, [[0, 1, 2]]);
		const A = new BlockMatrix(graph);
		for (let k = 0; k < 3; k++) for (let r = 0; r < 6; r++) if (k !== 1 || r !== 2) A.addDiagonal(k, r, 4);
		const freedom = (f: () => unknown) => {
			try {
				f();
			} catch (e) {
				return (e as SingularError).freedom;
			}
			return undefined;
		};
		expect(freedom(() => new SparseFactor(graph, kernel).factorise(A))).toBe(8);
		expect(freedom(() => new SparseFactor(graph).factorise(A))).toBe(8);
	});
	it('the Gram matrix is C^T K^-1 C', () => {
		const { graph, A } = random(20, 7, 40);
		const f = new SparseFactor(graph).factorise(A);
		const columns = [
			{ at: [0, 7], v: [1, -2] },
			{ at: [33], v: [1] },
			{ at: [5, 60, 119], v: [0.5, 1, 3] },
			{ at: [100], v: [-1] },
			{ at: [2], v: [4] }
		];
		const G = f.gram(columns);
		columns.forEach((c, i) => {
			const b = new Float64Array(120);
			c.at.forEach((k, q) => (b[k] += c.v[q]));
			const x = f.solve(b);
			columns.forEach((d, j) =>
				expect(G[5 * j + i]).toBeCloseTo(
					d.at.reduce((s, k, q) => s + d.v[q] * x[k], 0),
					10
				)
			);
		});
	});
	it('counts negative pivots: the inertia of a block with one soft direction', () => {
		const graph = graphOf(2, [[0, 1]]);
		const A = new BlockMatrix(graph);
		for (let n = 0; n < 2; n++) for (let r = 0; r < 6; r++) A.addDiagonal(n, r, n === 1 && r === 4 ? -2 : 1);
		expect(new SparseFactor(graph).factorise(A).negative).toBe(1);
	});
	it('a freedom without stiffness is named', () => {
		const graph = graphOf(2, [[0, 1]]);
		const A = new BlockMatrix(graph);
		for (let n = 0; n < 2; n++) for (let r = 0; r < 6; r++) if (!(n === 1 && r === 2)) A.addDiagonal(n, r, 1);
		expect(() => new SparseFactor(graph).factorise(A)).toThrow(SingularError);
	});
	it('the ordering is a permutation', () =>
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
				const perm = minimumDegree(random(n, seed, 1).graph);
				expect([...perm].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
			})
		));
});

/** A symmetric positive-definite matrix, row-major. */
function spd(n: number, seed: number): Float64Array {
	const next = uniformFrom(seed);
	const b = Float64Array.from({ length: n * n }, () => next() - 0.5);
	return Float64Array.from({ length: n * n }, (_, q) => {
		const [i, j] = [Math.floor(q / n), q % n];
		let s = i === j ? 1 : 0;
		for (let k = 0; k < n; k++) s += b[i * n + k] * b[j * n + k];
		return s;
	});
}

describe('dense', () => {
	it('Cholesky solves on any leading block', () => {
		const n = 6;
		const a = new Float64Array(36);
		for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) a[6 * i + j] = 1 / (i + j + 1) + (i === j ? 1 : 0);
		for (const [chol, m] of [undefined, kernel].flatMap((k) => [1, 3, n].map((size) => [new DenseCholesky(a, n, k), size] as const))) {
			const b = Float64Array.from({ length: m }, (_, i) => i + 1);
			const four = new Float64Array(4 * m);
			b.forEach((v, i) => [1, 2, -1, 0].forEach((f, c) => (four[4 * i + c] = f * v)));
			chol.solveLeading4(four, m);
			const x = Float64Array.from({ length: m }, (_, i) => four[4 * i]);
			for (let i = 0; i < m; i++)
				expect([four[4 * i + 1], four[4 * i + 2], four[4 * i + 3]]).toEqual([2 * x[i], -x[i], 0 * x[i]].map((v) => expect.closeTo(v, 12)));
			for (let i = 0; i < m; i++) expect(x.reduce((s, v, j) => s + a[6 * i + j] * v, 0)).toBeCloseTo(b[i], 10);
		}
		for (const k of [undefined, kernel]) expect(() => new DenseCholesky(Float64Array.of(1, 2, 2, 1), 2, k)).toThrow(/not positive definite/);
	});
	it('the sweeps forward and back are the two halves of a solution; columns that are zero at first may begin later', () => {
		const [n, from] = [18, 7];
		const a = spd(n, 5);
		for (const k of [undefined, kernel]) {
			const chol = new DenseCholesky(a, n, k);
			const b = Float64Array.from({ length: 4 * n }, (_, i) => (i < 4 * from ? 0 : Math.sin(1 + i)));
			const [whole, late, solved] = [b.slice(), b.slice(), b.slice()];
			chol.forward4(whole, n);
			chol.forward4(late, n, from);
			late.forEach((v, i) => expect(v).toBeCloseTo(whole[i], 13));
			chol.backward4(whole, n);
			chol.solveLeading4(solved, n);
			whole.forEach((v, i) => expect(v).toBeCloseTo(solved[i], 13));
			// a row of L times another is the matrix
			for (const [i, j] of [
				[3, 3],
				[17, 2],
				[9, 9]
			]) {
				const [p, q] = [chol.row(i).slice(), chol.row(j).slice()];
				expect(q.reduce((s, v, c) => s + v * p[c], 0)).toBeCloseTo(a[i * n + j], 11);
			}
		}
	});
	it('a product with a transpose, compiled and not', () => {
		const k = 7;
		const A = Float64Array.from({ length: 5 * k }, (_, i) => Math.cos(i * 1.3));
		const B = Array.from({ length: 4 }, (_, j) => Float64Array.from({ length: k }, (_, i) => Math.sin(i * 0.7 + j)));
		const [plain, compiled] = [timesTransposed(A, B, k), timesTransposed(A, B, k, kernel)];
		expect(plain[4 * 4 + 3]).toBeCloseTo(
			B[3].reduce((s, v, i) => s + v * A[4 * k + i], 0),
			13
		);
		compiled.forEach((v, i) => expect(v).toBeCloseTo(plain[i], 13));
	});
	it('a factor that grows: the same observations as a solution of the whole, after rows were taken off again, compiled and not', () => {
		const [n, width] = [24, 10];
		const a = spd(n, 9);
		const answers = Float64Array.from({ length: n * width }, (_, i) => Math.sin(i * i));
		for (const k of [undefined, kernel]) {
			const f = growingFactor(n, width, k);
			const append = (order: readonly number[], at: number) => {
				const rows = order.slice(0, at + 6);
				const block = rows.slice(at);
				f.append(
					Float64Array.from(block.flatMap((r) => rows.map((c) => a[r * n + c]))),
					Float64Array.from(block.flatMap((r) => [...answers.subarray(r * width, (r + 1) * width)]))
				);
			};
			const blocks = (list: readonly number[]) => list.flatMap((b) => [0, 1, 2, 3, 4, 5].map((d) => 6 * b + d));
			const [first, order] = [blocks([0, 1, 3]), blocks([0, 3, 2])];
			for (const at of [0, 6, 12]) append(first, at);
			f.back(6);
			for (const at of [6, 12]) append(order, at);
			expect(f.count).toBe(18);
			const m = 18;
			const own = Float64Array.from(order.flatMap((r) => order.map((c) => a[r * n + c])));
			const expected = (g: Float64Array) => {
				const x = solveSmall(own.slice(), g.slice());
				return Array.from({ length: width }, (_, o) => -order.reduce((s, r, i) => s + answers[r * width + o] * x[i], 0));
			};
			const drives = [0, 1, 2].map((c) => Float64Array.from({ length: m }, (_, i) => Math.cos(i + c)));
			f.from(drives).forEach((y, c) => expected(drives[c]).forEach((v, o) => expect(y[o]).toBeCloseTo(v, 11)));
			const last = [1, -2, 0.5, 0, 3, 1];
			expected(Float64Array.from([...new Array<number>(12).fill(0), ...last])).forEach((v, o) => expect(f.fromLast(last)[o]).toBeCloseTo(v, 11));
			f.back(0);
			expect([...f.from([new Float64Array(0)])[0]]).toEqual(new Array(width).fill(0));
			expect(() =>
				f.append(
					Float64Array.from({ length: 36 }, () => 1),
					new Float64Array(6 * width)
				)
			).toThrow(/not positive definite/);
		}
	});
	it('elimination with pivoting; a singular system is refused', () => {
		expect([...solveSmall(Float64Array.of(0, 2, 3, 1), Float64Array.of(4, 5))]).toEqual([1, 2]);
		expect(() => solveSmall(Float64Array.of(1, 1, 1, 1), Float64Array.of(1, 2))).toThrow(/singular/);
	});
});
