import { describe, expect, it } from 'vitest';
import { BlockMatrix } from '../blockMatrix';
import { graphOf } from '../ordering';
import { kernelFactory } from './kernel';

const factory = kernelFactory(WebAssembly);

describe('memory of a kernel', () => {
	it('is laid out without overlap, grows when it must, and keeps what was put there', () => {
		const k = factory();
		const a = k.putNumbers(Float64Array.from({ length: 1000 }, (_, i) => i));
		const b = k.putInt(Int32Array.from([7, 8, 9]));
		const before = k.bytes;
		const big = k.reserve(50_000_000);
		expect(k.bytes).toBeGreaterThan(before);
		expect([a, b, big].every((x, i, list) => x % 16 === 0 && (i === 0 || x > list[i - 1]))).toBe(true);
		expect(k.f64(a, 1000)[999]).toBe(999);
		expect([...k.i32(b, 3)]).toEqual([7, 8, 9]);
		k.release(b);
		expect(k.reserve(16)).toBe(b);
	});
	it('says how much it would have needed where it ends', () => expect(() => factory().reserve(5e9)).toThrow(/needs 5\.\d GB.*4\.3 GB is the limit/));
	it('two kernels share nothing', () => {
		const [p, q] = [factory(), factory()];
		const at = p.putNumbers(Float64Array.of(1));
		q.putNumbers(Float64Array.of(2));
		expect(p.f64(at, 1)[0]).toBe(1);
	});
	it('multiplies as the definition says, with and without the part above the diagonal, and subtracting', () => {
		const k = factory();
		const [m, n, q] = [12, 6, 6];
		const A = Float64Array.from({ length: m * q }, (_, i) => Math.sin(i));
		const B = Float64Array.from({ length: n * q }, (_, i) => Math.cos(2 * i));
		const [a, b, c] = [k.putNumbers(A), k.putNumbers(B), k.putNumbers(new Float64Array(m * n).fill(1))];
		const wanted = (i: number, j: number) => Array.from({ length: q }, (_, t) => A[i * q + t] * B[j * q + t]).reduce((s, v) => s + v, 0);
		k.run.multiplyTransposed(a, q, b, q, c, n, m, n, q, 0, 1);
		for (let i = 0; i < m; i++) for (let j = 0; j < n; j++) expect(k.f64(c, m * n)[i * n + j]).toBeCloseTo(1 - wanted(i, j), 12);
		k.f64(c, m * n).fill(5);
		k.run.multiplyTransposed(a, q, b, q, c, n, m, n, q, 1, 0);
		expect(k.f64(c, m * n)[0 * n + 5]).toBe(5); // above the diagonal: left alone
		expect(k.f64(c, m * n)[5 * n + 0]).toBeCloseTo(wanted(5, 0), 12);
	});
});

describe('node-block matrix', () => {
	const graph = graphOf(4, [
		[0, 1, 2],
		[1, 3]
	]);
	const A = new BlockMatrix(graph);
	for (const nodes of [
		[0, 1, 2],
		[1, 3]
	]) {
		const w = 6 * nodes.length;
		const k = new Float64Array(w * w);
		for (let i = 0; i < w; i++) for (let j = 0; j < w; j++) k[i * w + j] = Math.sin(1 + i * j + nodes.length) + (i === j ? 10 : 0);
		for (let i = 0; i < w; i++) for (let j = 0; j < i; j++) k[j * w + i] = k[i * w + j];
		A.addElement(nodes, k);
	}
	it('times a vector is symmetric: x . A y = y . A x, and its diagonal is what unit vectors find', () => {
		const x = Float64Array.from({ length: 24 }, (_, i) => Math.sin(3 * i));
		const y = Float64Array.from({ length: 24 }, (_, i) => Math.cos(5 * i));
		const dot = (p: Float64Array, q: Float64Array) => p.reduce((s, v, i) => s + v * q[i], 0);
		expect(dot(x, A.multiply(y))).toBeCloseTo(dot(y, A.multiply(x)), 9);
		A.diagonal().forEach((d, i) => {
			const e = new Float64Array(24);
			e[i] = 1;
			expect(A.multiply(e)[i]).toBeCloseTo(d, 12);
		});
	});
	it('a place outside its graph is refused', () => expect(() => A.addElement([0, 3], new Float64Array(144))).toThrow(/Block \(3, 0\)/));
	it('cleared, it is nothing', () => {
		const B = new BlockMatrix(graph);
		B.addDiagonal(2, 3, 5);
		B.addNodeBlock(1, 0, 4, 2);
		expect(B.diagonal()[15]).toBe(5);
		B.clear();
		expect(B.multiply(new Float64Array(24).fill(1)).every((v) => v === 0)).toBe(true);
	});
});
