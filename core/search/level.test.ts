import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitOf, levelOf } from './level';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('levels', () => {
	it('go through the value they were given, and never fall', () =>
		fc.assert(
			fc.property(
				fc.constantFrom('flatness' as const, 'length' as const, 'angle' as const, 'twist' as const),
				number(0.01, 20),
				number(0, 20),
				fc.option(number(0.01, 8), { nil: undefined }),
				number(0, 20),
				number(0, 20),
				(kind, linear, final, slope, p, q) => {
					const of = levelOf({ kind }, { linear, pull: 100 }, final, slope === undefined ? undefined : { linear: slope, pull: slope / 50 });
					const level = (v: number) => of({ linear: v, pull: 100 });
					expect(level(linear)).toBeCloseTo(final, 9);
					const [lo, hi] = [Math.min(p, q), Math.max(p, q)];
					expect(level(hi)).toBeGreaterThanOrEqual(level(lo) - 1e-12);
					if (kind === 'flatness' || kind === 'twist') expect(level(lo)).toBeGreaterThanOrEqual(0);
				}
			)
		));
	it('a signed feature is shifted, on both sides of nothing', () => {
		const level = levelOf({ kind: 'length' }, { linear: 0.4, pull: 0 }, -0.2);
		expect([0.4, 0, -0.3].map((linear) => level({ linear, pull: 0 })).map((v) => Number(v.toFixed(9)))).toEqual([-0.2, -0.6, -0.9]);
	});
});

describe('fits', () => {
	const points = (final: number[], linear: number[], pull: number[]) => final.map((f, i) => ({ final: f, linear: linear[i], pull: pull[i] }));
	const flat = [5, 5, 5, 5, 5];
	it('are least squares over what explains the final values better', () => {
		// worked by hand: x 1 2 3 4, y 2 3 5 6: sum of products about the means 7, of squares 5
		expect(fitOf(points([2, 3, 5, 6], [1, 2, 3, 4], flat))).toEqual({ linear: expect.closeTo(7 / 5, 12), pull: 0 });
		expect(fitOf(points([2, 3, 5, 6], flat, [10, 20, 30, 40]))).toEqual({ linear: 0, pull: expect.closeTo(0.14, 12) });
		// both rise with it: the one that lies on a line wins
		expect(fitOf(points([1, 2, 3, 4, 5], [1, 2.4, 2.9, 4.3, 4.9], [2, 4, 6, 8, 10]))).toEqual({ linear: 0, pull: expect.closeTo(0.5, 12) });
	});
	it('are not given where there is too little to go by, or neither rises with the final values', () => {
		expect(fitOf(points([1, 2, 3], [1, 2, 3], [1, 2, 3]))).toBeUndefined();
		expect(fitOf(points([4, 3, 2, 1], [1, 2, 3, 4], [1, 2, 3, 4]))).toBeUndefined();
		expect(fitOf(points([1, 9, 0, 8, 2], [0, 1, 2, 3, 4], flat))).toBeUndefined();
		expect(fitOf(points([1, 2, 3, 4], flat, flat))).toBeUndefined();
		expect(fitOf(points([2, 2, 2, 2], [1, 2, 3, 4], [4, 3, 2, 1]))).toBeUndefined();
	});
	it('put the level on the line, by the pull as by the linear value', () => {
		const level = levelOf({ kind: 'flatness' }, { linear: 0.5, pull: 4000 }, 5, { linear: 0, pull: 0.002 });
		expect(level({ linear: 9, pull: 3500 })).toBeCloseTo(4, 12);
		expect(level({ linear: 9, pull: 0 })).toBe(0);
	});
});
