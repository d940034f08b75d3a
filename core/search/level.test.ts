import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { levelOf, slopeOf } from './level';

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
					const level = levelOf({ kind }, linear, final, slope);
					expect(level(linear)).toBeCloseTo(final, 9);
					const [lo, hi] = [Math.min(p, q), Math.max(p, q)];
					expect(level(hi)).toBeGreaterThanOrEqual(level(lo) - 1e-12);
					if (kind === 'flatness' || kind === 'twist') expect(level(lo)).toBeGreaterThanOrEqual(0);
				}
			)
		));
	it('a signed feature is shifted, on both sides of nothing', () => {
		const level = levelOf({ kind: 'length' }, 0.4, -0.2);
		expect([level(0.4), level(0), level(-0.3)].map((v) => Number(v.toFixed(9)))).toEqual([-0.2, -0.6, -0.9]);
	});
});

describe('slopes', () => {
	it('are those of a line where the values lie on one (least squares, closed form)', () => {
		expect(slopeOf([0, 1, 2, 5].map((x) => ({ linear: x, final: 3 + 2.5 * x })))).toBeCloseTo(2.5, 12);
		// worked by hand: x 1 2 3 4, y 2 3 5 6: sum of products about the means 7, of squares 5
		const y = [2, 3, 5, 6];
		expect(slopeOf([1, 2, 3, 4].map((x, i) => ({ linear: x, final: y[i] })))).toBeCloseTo(7 / 5, 12);
	});
	it('are not given where there is too little to go by, or the two do not rise together', () => {
		const of = (y: number[]) => slopeOf(y.map((final, linear) => ({ linear, final })));
		expect(of([1, 2, 3])).toBeUndefined();
		expect(of([4, 3, 2, 1])).toBeUndefined();
		expect(of([1, 9, 0, 8, 2])).toBeUndefined();
		expect(of([2, 2, 2, 2])).toBeUndefined();
		expect(slopeOf([1, 2, 3, 4].map((final) => ({ linear: 7, final })))).toBeUndefined();
	});
});
