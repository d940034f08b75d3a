/**
 * What a shop's corrections give of what was foretold of them, learned way by way: normal prior about one, normal scatter from one time to
 * the next (normal-normal; Gelman et al., Bayesian Data Analysis, ch. 2).
 */
import { Z90 } from '../factors/factors';
import type { WayKind } from '../weldout/afterwards';
import type { RightEnd } from './way';

/** A correction that was read before and after, and foretold. */
export interface Tried {
	way: WayKind;
	/** how much nearer to the drawing it was foretold to bring it, and did, in the feature's unit */
	due: number;
	gave: number;
	/** standard uncertainty of what it gave, by the readings */
	doubt: number;
}
export interface Share {
	/** of what is foretold: in the mean, and where the next one lies at 90 % */
	mean: number;
	low: number;
	high: number;
	times: number;
}

/** How far a shop's own share lies from one before anything was tried, and one time from the next: standard deviations (own estimates). */
const PRIOR = 0.5;
const TO_THE_NEXT = 0.3;
/** What is foretold to give less than this many of the readings' own doubts says nothing of its share. */
const LEAST_DOUBTS = 1;

export function sharesOf(tried: readonly Tried[]): Map<WayKind, Share> {
	const told = tried.filter((t) => Math.abs(t.due) > LEAST_DOUBTS * t.doubt && t.due !== 0);
	return new Map(
		[...new Set(told.map((t) => t.way))].map((way) => {
			const own = told.filter((t) => t.way === way).map((t) => ({ share: t.gave / t.due, weight: 1 / (TO_THE_NEXT ** 2 + (t.doubt / t.due) ** 2) }));
			const precision = own.reduce((s, o) => s + o.weight, PRIOR ** -2);
			const mean = own.reduce((s, o) => s + o.weight * o.share, PRIOR ** -2) / precision;
			const half = Z90 * Math.sqrt(1 / precision + TO_THE_NEXT ** 2);
			return [way, { mean, low: mean - half, high: mean + half, times: own.length }];
		})
	);
}

/** Where a feature would end if the way gives what it has given here. @param now as read */
export function asItGoes({ feature, value, low, high }: RightEnd, now: number, share: Share): RightEnd {
	const moved = value - now;
	const end = now + share.mean * moved;
	const half = Math.hypot((high - low) / 2, (Math.abs(moved) * (share.high - share.low)) / 2);
	return { feature, value: end, low: end - half, high: end + half };
}
