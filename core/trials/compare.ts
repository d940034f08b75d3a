/**
 * Is one way better than another, or was it chance? Two sets of readings compared with their own scatter, and how many pieces it takes to
 * see a difference that matters. Bands hold 90 %, as everywhere here.
 */
import jStat from 'jstat';
import { Refusal } from '../refusal/refusal';

/** A set of readings by what it comes to. */
export interface Sample {
	count: number;
	mean: number;
	/** standard deviation of one reading */
	scatter: number;
}

export interface Compared {
	/** mean of the first less mean of the second, and the band that holds it at 90 % */
	difference: number;
	low: number;
	high: number;
	/** degrees of freedom of its uncertainty */
	degrees: number;
	/** share of trials in which chance alone would show as much, either way */
	chance: number;
}

/** A difference that chance shows less often than this is called more than chance: what the bands say too. */
export const MORE_THAN_CHANCE = 0.1;

export function sampleOf(readings: readonly number[]): Sample {
	const mean = readings.reduce((s, v) => s + v, 0) / readings.length;
	return { count: readings.length, mean, scatter: Math.sqrt(readings.reduce((s, v) => s + (v - mean) ** 2, 0) / (readings.length - 1)) };
}

/** A scatter below this share of the readings themselves is none: sums of decimals leave as much. */
const NOTHING = 1e-12;
function refuseWithoutScatter(variance: number, ...readings: readonly number[]): void {
	const size = Math.max(...readings.map(Math.abs), 1e-9);
	if (Math.sqrt(variance) > NOTHING * size) return;
	throw new Refusal('All readings are alike: how far one is from the next cannot be told. Read to a finer step', {
		field: 'readings',
		value: '0',
		allowed: 'some scatter'
	});
}

/** @param se standard uncertainty of the difference */
function judged(difference: number, se: number, degrees: number): Compared {
	const half = jStat.studentt.inv(1 - MORE_THAN_CHANCE / 2, degrees) * se;
	const chance = 2 * jStat.studentt.cdf(-Math.abs(difference / se), degrees);
	return { difference, low: difference - half, high: difference + half, degrees, chance };
}

/**
 * Two sets of pieces, each with a scatter of its own (B. L. Welch 1947, Biometrika 34, 28-35; degrees of freedom as F. E. Satterthwaite
 * 1946). @throws Refusal where a set has fewer than two readings, or neither has any scatter
 */
export function apart(a: Sample, b: Sample): Compared {
	if (a.count < 2 || b.count < 2)
		throw new Refusal('One reading of a way says nothing of its scatter: do at least two of each', {
			field: 'readings',
			value: String(Math.min(a.count, b.count)),
			allowed: 'at least 2'
		});
	const [p, q] = [a, b].map((s) => s.scatter ** 2 / s.count);
	refuseWithoutScatter(p + q, a.mean, b.mean);
	const degrees = (p + q) ** 2 / (p ** 2 / (a.count - 1) + q ** 2 / (b.count - 1));
	return judged(a.mean - b.mean, Math.sqrt(p + q), degrees);
}

/** The same pieces, places or days both ways: what they have in common drops out (Student 1908, Biometrika 6, 1-25). @throws Refusal where they do not pair */
export function inPairs(a: readonly number[], b: readonly number[]): Compared {
	if (a.length !== b.length)
		throw new Refusal(`${a.length} and ${b.length} readings make no pairs: give as many of one as of the other, in the same order`, {
			field: 'readings',
			value: `${a.length} and ${b.length}`,
			allowed: 'as many of each'
		});
	const d = sampleOf(a.map((v, i) => v - b[i]));
	refuseWithoutScatter(d.scatter ** 2, ...a, ...b);
	return judged(d.mean, d.scatter / Math.sqrt(d.count), d.count - 1);
}

/**
 * Pieces of each way that it takes to see a difference: the normal formula, 2 (z + z)² (scatter / difference)², and a quarter of z² for a
 * scatter that the trial must find out itself (W. C. Guenther 1981, The American Statistician 35, 243-244, from memory).
 * @param alarm share of trials that may see a difference where there is none @param seen share that shall see it where there is
 */
export function eachToSee(difference: number, scatter: number, alarm = MORE_THAN_CHANCE, seen = 0.8): number {
	const [z, power] = [jStat.normal.inv(1 - alarm / 2, 0, 1), jStat.normal.inv(seen, 0, 1)];
	return Math.max(2, Math.ceil(2 * ((z + power) * (scatter / difference)) ** 2 + z ** 2 / 4));
}
