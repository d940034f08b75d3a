/** The hull against what a hull is: nothing outside it, closed (Euler), and volumes that are known; and no code made at run time. */
import fc from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { cross, dot, sub, type Vec3 } from '../geometry/vec';
import { convexHull } from './convexHull';
import { minimumZone } from './flatness';
import { evaluateReadings } from './readings';

const volume = (points: readonly Vec3[], faces: readonly (readonly number[])[]) =>
	faces.reduce((v, [i, j, k]) => v + dot(points[i], cross(points[j], points[k])) / 6, 0);
const all = (points: readonly Vec3[]) => points.map((_, i) => i);

describe('convex hull', () => {
	it('of a box with points inside and on its faces: its volume, its eight corners and no other point', () => {
		const corners: Vec3[] = [0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z): Vec3 => [30 * x, 20 * y, 10 * z])));
		const points: Vec3[] = [...corners, [15, 10, 5], [1, 1, 1], [15, 10, 10], [30, 10, 5], [0, 0, 5]];
		// four that are not in one plane come first
		const faces = convexHull(points, [0, 4, 2, 1, ...all(points).filter((i) => ![0, 4, 2, 1].includes(i))]);
		expect(Math.abs(volume(points, faces))).toBeCloseTo(6000, 9);
		expect(new Set(faces.flat())).toEqual(new Set([0, 1, 2, 3, 4, 5, 6, 7]));
	});
	it('holds every point, is closed, and grows no smaller with more points', () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })), {
					maxLength: 40
				}),
				(raw) => {
					const points: Vec3[] = [[-60, -60, -60], [60, -60, -60], [0, 60, -60], [0, 0, 60], ...(raw as Vec3[])];
					const faces = convexHull(points, all(points));
					for (const [i, j, k] of faces) {
						const n = cross(sub(points[j], points[i]), sub(points[k], points[i]));
						// whole numbers: no rounding
						for (const p of points) expect(dot(n, sub(p, points[i]))).toBeLessThanOrEqual(0);
					}
					const edges = new Map<string, number>();
					for (const [i, j, k] of faces)
						for (const [u, v] of [
							[i, j],
							[j, k],
							[k, i]
						])
							edges.set(`${u}:${v}`, (edges.get(`${u}:${v}`) ?? 0) + 1);
					for (const [e, times] of edges) {
						expect(times).toBe(1);
						expect(edges.has(e.split(':').reverse().join(':'))).toBe(true);
					}
					expect(new Set(faces.flat()).size - edges.size / 2 + faces.length).toBe(2);
					expect(volume(points, faces)).toBeGreaterThanOrEqual(volume(points, convexHull(points, [0, 1, 2, 3])) - 1e-9);
				}
			),
			{ numRuns: 300 }
		);
	});
});

describe('under a policy that forbids code made at run time, as on the page', () => {
	afterEach(() => vi.unstubAllGlobals());
	const forbidden = () =>
		vi.stubGlobal(
			'Function',
			class {
				constructor() {
					throw new EvalError('Refused to evaluate a string as JavaScript');
				}
			}
		);
	it('a grid that is not plane has its flatness: 0.00 0.10 0.20 0.30 over and over, 0.30 mm', () => {
		forbidden();
		const points = Array.from({ length: 20 }, (_, i): Vec3 => [60 * (i % 5), 60 * Math.floor(i / 5), [0, 0.1, 0.2, 0.3][i % 4]]);
		const value = minimumZone(points);
		expect(value).toBeCloseTo(0.3, 2);
	});
	it('and readings of it are evaluated', () => {
		forbidden();
		const numbers = Array.from({ length: 20 }, (_, i) => [0, 0.1, 0.2, 0.3][i % 4]);
		const e = evaluateReadings('grid', numbers, { nx: 5, ny: 4, sizeMm: [240, 180] });
		expect(e.value).toBeCloseTo(0.3, 2);
		expect(e.arithmetic).toMatch(/hold all 20 points/);
	});
});
