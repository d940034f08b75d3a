/**
 * A trial: coupons that differ in one thing, so many of each, welded in an order that chance has made, and what came of it. Welded in
 * rounds of one of each way, so that a day that drifts takes from all alike (randomised blocks; R. A. Fisher 1935, textbook).
 */
import { multipliers, Z90, type ShopFactors } from '../factors/factors';
import { varianceBy, pieceScatter, seamScatter } from '../learn/shop';
import type { Sensitivity } from '../learn/sensitivity';
import { uniformFrom } from '../linalg/random';
import { isRefusal } from '../refusal/refusal';
import { apart, eachToSee, inPairs, MORE_THAN_CHANCE, sampleOf, type Compared } from '../trials/compare';

/** Ways in the order they are welded, one of each in every round. @param seed same seed, same order */
export function inRounds(ways: number, each: number, seed: number): number[] {
	const uniform = uniformFrom(seed);
	return Array.from({ length: each }).flatMap(() => {
		const round = Array.from({ length: ways }, (_, i) => i);
		// Fisher and Yates (textbook)
		for (let i = round.length - 1; i > 0; i--) {
			const j = Math.floor(uniform() * (i + 1));
			[round[i], round[j]] = [round[j], round[i]];
		}
		return round;
	});
}

/** What the forecast expects of one way less another, by the factors in force: they go together in both ways, so most of their doubt drops out. */
export interface Expected {
	difference: number;
	/** half its band at 90 %, of a mean of so many pieces of each */
	half: number;
}

/** @param each pieces of each way @param together they are learned in one context: a factor moves both, and what is left is the difference of the slopes */
export function expectedBetween(
	a: Sensitivity,
	b: Sensitivity,
	[fa, fb]: readonly [ShopFactors, ShopFactors],
	{ each, together }: { each: number; together: boolean }
): Expected {
	const [va, vb] = [worth(a, fa), worth(b, fb)];
	const slopes = a.slopes.map((v, i) => v - b.slopes[i]) as Sensitivity['slopes'];
	const factors = together
		? varianceBy({ kind: a.kind, slopes, spread: 0 }, fa)
		: varianceBy({ ...a, spread: 0 }, fa) + varianceBy({ ...b, spread: 0 }, fb);
	const pieces = (pieceScatter(a) ** 2 + pieceScatter(b) ** 2) / each;
	return { difference: va - vb, half: Z90 * Math.sqrt(factors + pieces + formOf(a) + formOf(b)) };
}
/** What the forecast itself is not sure of: more pieces do nothing to it, and what each seam scatters by is the pieces' own. */
const formOf = (s: Sensitivity) => s.spread ** 2 - seamScatter(s) ** 2;
function worth(s: Sensitivity, { mean }: ShopFactors): number {
	const m = multipliers(mean);
	return s.predicted + s.slopes[0] * (m.force - 1) + s.slopes[1] * (m.shrinkage - 1) + s.slopes[2] * (m.angle - 1);
}

export interface Sized {
	/** from one piece to the next, its reading in it, one standard deviation */
	scatter: number;
	/** pieces of each way that show a difference that matters in 8 trials of 10 */
	each: number;
}
/** @param own of pieces, their reading apart @param reading90 what the instrument doubts @param matters difference that would change the plan */
export function sizeOf(own: number, reading90: number, matters: number): Sized {
	const scatter = Math.hypot(own, reading90 / Z90);
	return { scatter, each: eachToSee(matters, scatter) };
}

/** What a trial says of two of its ways in one thing that was read. */
export interface Between {
	a: number;
	b: number;
	compared?: Compared;
	/** how it was compared: round by round where every round has both */
	paired: boolean;
	/** of chance alone, all pairs of ways looked at (C. E. Bonferroni 1936, textbook) */
	chance?: number;
	verdict: 'differs' | 'alike' | 'open';
	/** pieces of each way that would tell it, where it is open */
	wants?: number;
	/** why nothing can be said */
	why?: string;
	expected?: Expected;
	/** the forecast expected it: their bands meet */
	asForecast?: boolean;
}

/** @param matters difference that would change the plan @param expected of each pair, where the forecast can speak of it */
export function judge(
	readings: readonly (number | undefined)[][],
	matters: number,
	expected: (a: number, b: number) => Expected | undefined
): Between[] {
	const pairs = readings.flatMap((_, a) => readings.slice(a + 1).map((__, k): [number, number] => [a, a + 1 + k]));
	return pairs.map(([a, b]) => between(readings, [a, b], pairs.length, matters, expected(a, b)));
}

const present = (values: readonly (number | undefined)[]) => values.filter((v): v is number => v !== undefined);
/** Fewer rounds than this have too few degrees of freedom to pair by. */
const LEAST_ROUNDS = 3;

/** Round by round where there are any; where all rounds differ by the same, by what one piece lies from the next. */
function comparedOf(rounds: readonly number[][], pa: readonly number[], pb: readonly number[]): { compared: Compared; paired: boolean } {
	if (rounds.length)
		try {
			const compared = inPairs(
				rounds.map((r) => r[0]),
				rounds.map((r) => r[1])
			);
			return { compared, paired: true };
		} catch (e) {
			if (!isRefusal(e)) throw e;
		}
	return { compared: apart(sampleOf(pa), sampleOf(pb)), paired: false };
}

function between(
	readings: readonly (number | undefined)[][],
	[a, b]: [number, number],
	pairs: number,
	matters: number,
	expected?: Expected
): Between {
	const rounds = readings[a].flatMap((v, i) => (v !== undefined && readings[b][i] !== undefined ? [[v, readings[b][i]!]] : []));
	const isWhole = rounds.length >= LEAST_ROUNDS && present(readings[a]).length === rounds.length && present(readings[b]).length === rounds.length;
	const about = { a, b, expected };
	const [pa, pb] = [present(readings[a]), present(readings[b])];
	try {
		const { compared, paired } = comparedOf(isWhole ? rounds : [], pa, pb);
		const chance = Math.min(1, compared.chance * pairs);
		const verdict = chance < MORE_THAN_CHANCE ? 'differs' : compared.low > -matters && compared.high < matters ? 'alike' : 'open';
		const scatter = Math.hypot(sampleOf(pa).scatter, sampleOf(pb).scatter) / Math.SQRT2;
		return {
			...about,
			compared,
			paired,
			chance,
			verdict,
			wants: verdict === 'open' && matters > 0 ? Math.max(eachToSee(matters, scatter), 1 + Math.min(pa.length, pb.length)) : undefined,
			asForecast: expected && compared.low <= expected.difference + expected.half && compared.high >= expected.difference - expected.half
		};
	} catch (e) {
		if (!isRefusal(e)) throw e;
		return { ...about, paired: false, verdict: 'open', why: e.message };
	}
}
