/** Lines, rings and turns that everything else stands on, against closed forms and by properties. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deepestPoint, isClosed, isInside, pathLength, pointAt, ringArea, segmentDistance, segmentsCross, selfCrosses } from './polyline';
import { add, cross, distance, distance2, dot, norm, rotate, sub, unit, type Vec2, type Vec3 } from './vec';

const number = fc.double({ min: -100, max: 100, noNaN: true });
const point: fc.Arbitrary<Vec2> = fc.tuple(number, number);
const vector: fc.Arbitrary<Vec3> = fc.tuple(number, number, number);
const path = fc.array(point, { minLength: 2, maxLength: 12 });
const regular = (n: number, r: number, [x, y]: Vec2 = [0, 0]): Vec2[] =>
	Array.from({ length: n }, (_, i) => [x + r * Math.cos((2 * Math.PI * i) / n), y + r * Math.sin((2 * Math.PI * i) / n)]);

describe('polylines', () => {
	it('a point so far along is so far along; before the start and past the end are the ends', () =>
		fc.assert(
			fc.property(path, fc.double({ min: 0, max: 1, noNaN: true }), (p, share) => {
				const length = pathLength(p);
				const at = pointAt(p, share * length);
				// it lies on the path
				expect(Math.min(...p.slice(1).map((q, i) => segmentDistance(at, p[i], q)))).toBeLessThan(1e-9);
				expect(distance2(pointAt(p, -5), p[0])).toBeLessThan(1e-12);
				expect(distance2(pointAt(p, length + 5), p[p.length - 1])).toBeLessThan(1e-9);
				// what is left and what is right of it make the whole
				let before = 0;
				for (let i = 1; i < p.length; i++) {
					const step = distance2(p[i - 1], p[i]);
					if (before + step >= share * length - 1e-9) {
						expect(before + distance2(p[i - 1], at)).toBeCloseTo(share * length, 6);
						break;
					}
					before += step;
				}
			})
		));
	it('length and area of a regular polygon: n 2 r sin(pi / n), n r^2 sin(2 pi / n) / 2', () => {
		for (const n of [3, 4, 6, 48]) {
			const ring = regular(n, 70, [5, -3]);
			expect(pathLength([...ring, ring[0]])).toBeCloseTo(n * 2 * 70 * Math.sin(Math.PI / n), 9);
			expect(ringArea(ring)).toBeCloseTo((n * 70 ** 2 * Math.sin((2 * Math.PI) / n)) / 2, 7);
			expect(ringArea([...ring].reverse())).toBeCloseTo(-ringArea(ring), 9);
			expect([isClosed([...ring, ring[0]]), isClosed(ring)]).toEqual([true, false]);
		}
	});
	it('inside by the even-odd rule: within the inner circle, not beyond the outer one', () =>
		fc.assert(
			fc.property(fc.integer({ min: 3, max: 40 }), fc.double({ min: 0, max: 6.28, noNaN: true }), (n, a) => {
				const ring = regular(n, 50);
				const inner = 50 * Math.cos(Math.PI / n);
				const at = (r: number): Vec2 => [r * Math.cos(a), r * Math.sin(a)];
				expect(isInside(at(0.98 * inner), ring)).toBe(true);
				expect(isInside(at(51), ring)).toBe(false);
			})
		));
	it('distance to a segment is the least over its points', () =>
		fc.assert(
			fc.property(point, point, point, (p, a, b) => {
				const d = segmentDistance(p, a, b);
				const sampled = Math.min(
					...Array.from({ length: 401 }, (_, i) => distance2(p, [a[0] + ((b[0] - a[0]) * i) / 400, a[1] + ((b[1] - a[1]) * i) / 400]))
				);
				expect(d).toBeLessThanOrEqual(sampled + 1e-9);
				expect(sampled - d).toBeLessThan(distance2(a, b) / 400 + 1e-9);
			})
		));
	it('segments that cross do so whichever is named first; those that only touch do not', () => {
		fc.assert(
			fc.property(point, point, point, point, (a, b, c, d) => {
				const once = segmentsCross(a, b, c, d);
				expect([segmentsCross(c, d, a, b), segmentsCross(b, a, c, d), segmentsCross(a, b, d, c)]).toEqual([once, once, once]);
			})
		);
		expect(segmentsCross([0, 0], [10, 10], [0, 10], [10, 0])).toBe(true);
		expect(segmentsCross([0, 0], [10, 0], [5, 0], [5, 5])).toBe(false);
		expect(segmentsCross([0, 0], [10, 0], [10, 0], [20, 5])).toBe(false);
	});
	it('a bow tie crosses itself, a regular ring does not', () => {
		const bowTie: Vec2[] = [
			[0, 0],
			[10, 10],
			[10, 0],
			[0, 10]
		];
		expect([selfCrosses(bowTie), selfCrosses(regular(24, 30))]).toEqual([true, false]);
	});
	it('the deepest point of a plate is its middle; a hole there drives it aside; a line halves it', () => {
		const plate: Vec2[] = [
			[0, 0],
			[240, 0],
			[240, 120],
			[0, 120]
		];
		expect(deepestPoint(plate, []).depth).toBeCloseTo(60, 9);
		const aside = deepestPoint(plate, [regular(24, 30, [120, 60])]);
		expect(distance2(aside.at, [120, 60])).toBeGreaterThan(50);
		expect(aside.depth).toBeLessThan(60);
		expect(
			deepestPoint(
				plate,
				[],
				[
					[
						[0, 60],
						[240, 60]
					]
				]
			).depth
		).toBeCloseTo(30, 9);
	});
});

describe('vectors', () => {
	it('the cross product stands on both and is as long as the area they span (Lagrange)', () =>
		fc.assert(
			fc.property(vector, vector, (a, b) => {
				const c = cross(a, b);
				expect(dot(c, a)).toBeCloseTo(0, 5);
				expect(dot(c, b)).toBeCloseTo(0, 5);
				expect(norm(c) ** 2 / 1e4).toBeCloseTo((dot(a, a) * dot(b, b) - dot(a, b) ** 2) / 1e4, 4);
			})
		));
	it('a turn keeps lengths and the axis; turned on it adds up; turned back it is where it was', () =>
		fc.assert(
			fc.property(vector, vector, fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (v, w, p, q) => {
				fc.pre(norm(w) > 1e-3);
				const axis = unit(w);
				const turned = rotate(v, axis, p);
				expect(norm(turned)).toBeCloseTo(norm(v), 9);
				expect(dot(turned, axis)).toBeCloseTo(dot(v, axis), 9);
				expect(distance(rotate(turned, axis, q), rotate(v, axis, p + q))).toBeLessThan(1e-9);
				expect(distance(rotate(turned, axis, -p), v)).toBeLessThan(1e-9);
			})
		));
	it('a quarter turn about z takes x to y', () => {
		rotate([1, 0, 0], [0, 0, 1], Math.PI / 2).forEach((c, i) => expect(c).toBeCloseTo([0, 1, 0][i], 12));
		expect(sub(add([1, 2, 3], [4, 5, 6]), [4, 5, 6])).toEqual([1, 2, 3]);
	});
});
