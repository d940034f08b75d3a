/** What truth is worth in minutes: one scale between the quickest plan that may do and the truest that can be had. */
import { exceedance, type SearchGoals } from '../search/cost';
import type { AnyFeature } from '../document/schema';

export const FLAVOURS = ['quickest', 'between', 'truest'] as const;
export type Flavour = (typeof FLAVOURS)[number];
export const FLAVOUR_WORDS: Record<Flavour, string> = { quickest: 'Quickest', between: 'Between', truest: 'Truest' };

/** A minute of a person’s time, in squares of a feature’s limit (own estimates): a quarter of an hour is worth a feature brought from its limit to its middle, three hours, or hardly anything. */
const A_MINUTE: Record<Flavour, number> = { quickest: 1 / 15, between: 1 / 180, truest: 1 / 3000 };
/** A feature outside its limits costs besides so many times the square of what it lies beyond. */
const BEYOND = 10;

export interface Weighed {
	/** by feature */
	values: number[];
	/** at the bench, for a piece */
	minutes: number;
}

/** What a plan costs: features by how far they lie off, those outside far more, and time. 0 is true to the middle and done at once. */
export function priceOf(features: readonly AnyFeature[], { values, minutes }: Weighed, goals: SearchGoals, flavour: Flavour): number {
	return missOf(features, values, goals) + A_MINUTE[flavour] * minutes;
}

/** The same without the time. */
export const missOf = (features: readonly AnyFeature[], values: readonly number[], goals: SearchGoals): number =>
	features.reduce((sum, f, k) => {
		const off = Math.abs(exceedance(f, values[k]));
		return sum + (goals.features[f.id] ?? 1) * (off ** 2 + BEYOND * Math.max(0, off - 1) ** 2);
	}, 0);
