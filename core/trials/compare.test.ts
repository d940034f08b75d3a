/** Against published examples and tables, and by what the bands must hold. */
import { describe, expect, it } from 'vitest';
import { uniformFrom } from '../linalg/random';
import { apart, eachToSee, inPairs, sampleOf } from './compare';

/** Hours of sleep gained with two drugs, ten patients (Student 1908, from memory). */
const FIRST = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
const SECOND = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];

describe('two ways compared', () => {
	it('Student’s patients, each his own pair: t = -4.06 on 9 degrees, p = 0.0028 (published example, from memory)', () => {
		const c = inPairs(FIRST, SECOND);
		expect(c.difference).toBeCloseTo(-1.58, 9);
		expect(c.degrees).toBe(9);
		expect(c.chance).toBeCloseTo(0.002833, 5);
		// half width: 1.833 times the standard error (table of t, 9 degrees, 90 %)
		expect((c.high - c.low) / 2).toBeCloseTo(1.833 * (1.58 / 4.0621), 3);
	});
	it('the same as two sets of patients: 17.8 degrees, p = 0.079 (from memory)', () => {
		const c = apart(sampleOf(FIRST), sampleOf(SECOND));
		expect(c.degrees).toBeCloseTo(17.776, 2);
		expect(c.chance).toBeCloseTo(0.07939, 4);
	});
	it('miles per gallon of 249 and 79 cars: t = -12.946 on 136.9 degrees (NIST/SEMATECH e-Handbook, 1.3.5.3, from memory)', () => {
		const c = apart({ count: 249, mean: 20.14458, scatter: 6.4147 }, { count: 79, mean: 30.48101, scatter: 6.10771 });
		expect(c.degrees).toBeCloseTo(136.875, 1);
		// the band's half width over t of 90 % at 137 degrees (1.656, tables) is the standard error: the difference over it is their t
		expect(c.difference / ((c.high - c.low) / 2 / 1.6561)).toBeCloseTo(-12.946, 2);
		expect(c.chance).toBeLessThan(1e-20);
	});
	it('the band holds the truth in nine trials of ten, with few pieces and unlike scatter', () => {
		const uniform = uniformFrom(17);
		const normal = () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
		let [held, alarms] = [0, 0];
		const TRIALS = 4000;
		for (let k = 0; k < TRIALS; k++) {
			const of = (n: number, mean: number, sd: number) => sampleOf(Array.from({ length: n }, () => mean + sd * normal()));
			const c = apart(of(4, 3, 0.3), of(6, 2, 0.9));
			if (c.low <= 1 && c.high >= 1) held++;
			if (apart(of(5, 0, 1), of(5, 0, 1)).chance < 0.1) alarms++;
		}
		expect(held / TRIALS).toBeGreaterThan(0.88);
		expect(held / TRIALS).toBeLessThan(0.92);
		expect(alarms / TRIALS).toBeCloseTo(0.1, 1);
	});
	it('what cannot be told is named', () => {
		expect(() => apart(sampleOf([1]), sampleOf([1, 2]))).toThrow(/at least two of each/);
		expect(() => apart(sampleOf([1, 1, 1]), sampleOf([2, 2]))).toThrow(/finer step/);
		expect(() => inPairs([1, 2, 3], [1, 2])).toThrow(/3 and 2 readings make no pairs/);
		expect(() => inPairs([1, 2, 3], [2, 3, 4])).toThrow(/finer step/);
		// decimals that differ by the same tenth, and by a hair of rounding
		expect(() => inPairs([3.1, 2.8, 3.4], [3.0, 2.7, 3.3])).toThrow(/finer step/);
		expect(() => apart(sampleOf([0.1, 0.1, 0.1]), sampleOf([0.3, 0.3, 0.3]))).toThrow(/finer step/);
	});
});

describe('how many of each', () => {
	it('half a scatter, 5 % and 80 %: 64 of each (table of J. Cohen 1988, from memory); a whole one: 17', () => {
		expect(eachToSee(0.5, 1, 0.05, 0.8)).toBe(64);
		expect(eachToSee(1, 1, 0.05, 0.8)).toBe(17);
	});
	it('so many really see it about as often as asked', () => {
		const uniform = uniformFrom(3);
		const normal = () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
		const n = eachToSee(1.2, 1, 0.1, 0.8);
		const TRIALS = 3000;
		let seen = 0;
		for (let k = 0; k < TRIALS; k++) {
			const of = (mean: number) => sampleOf(Array.from({ length: n }, () => mean + normal()));
			if (apart(of(1.2), of(0)).chance < 0.1) seen++;
		}
		expect(seen / TRIALS).toBeGreaterThan(0.76);
		expect(seen / TRIALS).toBeLessThan(0.87);
	});
	it('never fewer than two', () => expect(eachToSee(100, 1)).toBe(2));
});
