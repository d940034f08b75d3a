import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, dot, norm, rotate, sub, unit, type Vec3 } from '../geometry/vec';
import { bestPlane, minimumZone, thinZone, widthAlong } from './flatness';
import { angleTolerance, formTolerance, linearTolerance } from './iso13920';
import { evaluateReadings } from './readings';
import { bowFromEnds } from './straightness';

/** Every plane through three points and every pair of parallel planes on two edges: slow and certain. */
function bruteForce(points: Vec3[]): number {
	let best = Infinity;
	const holds = (n: Vec3) => (best = Math.min(best, widthAlong(points, n)));
	const k = points.length;
	for (let a = 0; a < k; a++)
		for (let b = a + 1; b < k; b++)
			for (let c = b + 1; c < k; c++) {
				const n = cross(sub(points[b], points[a]), sub(points[c], points[a]));
				if (norm(n) > 1e-12) holds(unit(n));
			}
	for (let a = 0; a < k; a++)
		for (let b = a + 1; b < k; b++)
			for (let c = 0; c < k; c++)
				for (let d = c + 1; d < k; d++) {
					const n = cross(sub(points[b], points[a]), sub(points[d], points[c]));
					if (norm(n) > 1e-9) holds(unit(n));
				}
	return best;
}

describe('flatness', () => {
	it('minimum zone: the fast method against brute force over all triples and edge pairs', () =>
		fc.assert(
			fc.property(
				fc.array(
					fc.tuple(
						fc.double({ min: 0, max: 300, noNaN: true }),
						fc.double({ min: 0, max: 200, noNaN: true }),
						fc.double({ min: -2, max: 2, noNaN: true })
					),
					{ minLength: 4, maxLength: 9 }
				),
				(raw) => {
					const points = raw as Vec3[];
					// points that nearly lie on one line have a test of their own
					fc.pre(points.some((p) => points.some((q) => norm(cross(sub(p, points[0]), sub(q, points[0]))) > 400)));
					const slow = bruteForce(points);
					expect(minimumZone(points)).toBeCloseTo(slow, 6);
				}
			),
			{ numRuns: 300 }
		));
	it('points that lie nearly on one line have no facets, and are flat', () => {
		const line: Vec3[] = [0, 5e-7, 0, 26].map((x, i) => [x, i === 3 ? 200 : 0, 0]);
		expect(minimumZone(line)).toBeLessThan(1e-6);
		expect(thinZone(line)).toBeLessThan(1e-6);
	});
	it('a tilted plane is flat; three points are; a pyramid of height h over a square is not flatter than its own zone', () => {
		const tilted = [0, 1, 2, 3, 4].flatMap((i) => [0, 1, 2].map((j): Vec3 => [50 * i, 40 * j, 3 * i - 2 * j]));
		expect(minimumZone(tilted)).toBeLessThan(1e-9);
		expect(
			minimumZone([
				[0, 0, 0],
				[10, 0, 3],
				[0, 10, -1]
			])
		).toBeLessThan(1e-9);
		expect(
			minimumZone([
				[0, 0, 0],
				[100, 0, 0],
				[100, 100, 0],
				[0, 100, 0],
				[50, 50, 2]
			])
		).toBeCloseTo(2, 9);
	});
	it('turning the piece does not change it', () => {
		const points: Vec3[] = [
			[0, 0, 0.1],
			[100, 5, 0.7],
			[90, 80, -0.4],
			[3, 77, 0.2],
			[44, 40, 1.1],
			[60, 20, 0.3]
		];
		const axis = unit([1, 2, -0.5]);
		expect(minimumZone(points.map((p) => rotate(p, axis, 0.7)))).toBeCloseTo(minimumZone(points), 9);
	});
	it('for a nearly flat sheet the quick search over tilts gives the exact minimum zone', () =>
		fc.assert(
			fc.property(fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 20, maxLength: 20 }), (heights) => {
				const points: Vec3[] = heights.map((h, i) => [(i % 5) * 90, Math.floor(i / 5) * 80, h]);
				const exact = minimumZone(points);
				expect(Math.abs(thinZone(points) - exact)).toBeLessThanOrEqual(1e-4 * exact + 1e-6);
			}),
			{ numRuns: 200 }
		));
	it('the quick search is unmoved by a turn of the whole, and a plane is flat', () => {
		const points: Vec3[] = Array.from({ length: 20 }, (_, i) => [(i % 5) * 60, Math.floor(i / 5) * 50, Math.sin(i * 1.7)]);
		const turned = points.map(([x, y, z]): Vec3 => [0.6 * x - 0.8 * z, y, 0.8 * x + 0.6 * z]);
		expect(Math.abs(thinZone(turned) - thinZone(points))).toBeLessThan(1e-4);
		expect(thinZone(points.map(([x, y]): Vec3 => [x, y, 0.3 * x - 0.2 * y + 4]))).toBeLessThan(1e-9);
	});
	it('the minimum zone is never wider than the least-squares one', () => {
		const points: Vec3[] = Array.from({ length: 20 }, (_, i) => [(i % 5) * 60, Math.floor(i / 5) * 50, Math.sin(i * 1.7)]);
		expect(minimumZone(points)).toBeLessThanOrEqual(widthAlong(points, bestPlane(points).normal) + 1e-12);
		expect(dot(bestPlane(points).normal, bestPlane(points).normal)).toBeCloseTo(1, 12);
	});
});

describe('straightness and readings', () => {
	it('a bow over its ends is its sagitta', () =>
		expect(
			bowFromEnds([
				[0, 0, 0],
				[100, 0, 1.2],
				[200, 0, 0]
			])
		).toBeCloseTo(1.2, 12));
	it('diagonals, tape, angle: the arithmetic is in the words', () => {
		expect(evaluateReadings('diagonals', [671.5, 670], {})).toMatchObject({ value: 1.5, unit: 'mm', arithmetic: '|671.50 - 670.00| = 1.50 mm' });
		expect(evaluateReadings('tape', [298], { nominal: 300 }).value).toBe(-2);
		expect(evaluateReadings('angle', [91.5], { nominal: 90 })).toMatchObject({ value: 1.5, unit: '°' });
	});
	it('a grid tilted on the bench is flat', () =>
		expect(evaluateReadings('grid', [0, 1, 2, 3, 1, 2, 3, 4, 2, 3, 4, 5], { nx: 4, ny: 3, sizeMm: [300, 200] }).value).toBeLessThan(1e-9));
	it('a wrong count or a number that is none is refused by name', () => {
		expect(() => evaluateReadings('diagonals', [1], {})).toThrow(/needs 2 readings, 1 given/);
		expect(() => evaluateReadings('tape', [NaN], { nominal: 1 })).toThrow(/not a number/);
	});
	it('a square and a feeler: a millimetre at 57.3 from the corner is a degree, and a tenth of it is known to a tenth of a degree', () => {
		const read = evaluateReadings('square', [57.29, 1], { nominal: 90 });
		expect(read.value).toBeCloseTo(1, 3);
		expect(read.unit).toBe('°');
		// by the two slopes, worked apart: what 0.1 mm of gap and 0.1 mm of reach do
		const by = (reach: number, gap: number) => evaluateReadings('square', [reach, gap], { nominal: 90 }).value - read.value;
		expect(read.uncertainty90).toBeCloseTo(Math.hypot(by(57.29, 1.1), by(57.39, 1)), 3);
		// a gap in the corner closes the fold; further out the same feeler says less
		expect(evaluateReadings('square', [100, -1], { nominal: 90 }).value).toBeLessThan(0);
		expect(evaluateReadings('square', [200, 2], { nominal: 90 }).uncertainty90).toBeLessThan(read.uncertainty90 / 3);
		expect(() => evaluateReadings('square', [0, 1], { nominal: 90 })).toThrow(/From the corner to the gap: 0 cannot be read/);
	});
	it('a tape laid on three times: 299, 300 and 301 scatter by 1; the average is known to 2.92 / √3 and the tape’s own half millimetre (GUM G.3)', () => {
		const read = evaluateReadings('tape-repeated', [299, 300, 301], { nominal: 300 });
		expect(read.value).toBe(0);
		expect(read.uncertainty90).toBeCloseTo(Math.hypot(0.5, 1.6859), 3);
		// three alike are one
		expect(evaluateReadings('tape-repeated', [301, 301, 301], { nominal: 300 })).toMatchObject({ value: 1, uncertainty90: 0.5 });
	});
	it('a reading that cannot be is refused by name: a feeler thinner than nothing, a tape or a diagonal of nothing; a hump’s gaps may be negative', () => {
		expect(() => evaluateReadings('rock', [-0.1], {})).toThrow(/Feeler under the corner that lifts: -0.1 cannot be read, it is 0 or more/);
		expect(evaluateReadings('rock', [0], {}).value).toBe(0);
		expect(() => evaluateReadings('tape', [0], { nominal: 300 })).toThrow(/Length: 0 cannot be read, it is more than 0/);
		expect(() => evaluateReadings('diagonals', [500, -1], {})).toThrow(/Diagonal 2: -1 cannot be read/);
		expect(evaluateReadings('straightedge', [0.1, -0.4, 0], {}).value).toBe(0.4);
	});
});

describe('ISO 13920:1996 tables', () => {
	it('linear B: 2 at 100, 3 at 700, 4 at 1500; form F: 1.5 at 300, 3 at 1000; angle B: 45, 30, 20 minutes', () => {
		expect([100, 700, 1500].map((n) => linearTolerance('B', n))).toEqual([2, 3, 4]);
		expect([300, 1000].map((n) => formTolerance('F', n))).toEqual([1.5, 3]);
		expect([400, 1000, 1200].map((n) => angleTolerance('B', n) * 60)).toEqual([45, 30, 20]);
	});
	it('each class is at least as wide as the one before, at every size', () => {
		for (const n of [20, 100, 300, 900, 1800, 3000]) {
			const row = (['A', 'B', 'C', 'D'] as const).map((c) => linearTolerance(c, n));
			expect([...row].sort((a, b) => a - b)).toEqual(row);
		}
	});
	it('beyond the table it says so', () => expect(() => formTolerance('E', 9000)).toThrow(/up to 4000/));
});
