/** What a search is after: features near the middle of their limits, and as little heat, time and turning as that leaves. */
import type { AnyFeature } from '../document/schema';

export interface SearchGoals {
	/** weight of each feature by id; 1 where it is not named */
	features: Record<string, number>;
	/** of an hour of weld-out */
	time: number;
	/** of the hottest start, as a share of the interpass ceiling, squared */
	heat: number;
	/** of each flip */
	flip: number;
	/** hard limit, when given */
	maxFlips?: number;
	/** may runs be laid the other way */
	mayReverse: boolean;
	/** how often the search starts again from a shaken order */
	restarts: number;
}

export const DEFAULT_GOALS: SearchGoals = { features: {}, time: 0.05, heat: 0.02, flip: 0.02, mayReverse: true, restarts: 1 };

/** Departure from the middle of the limits over half their width: 1 at a limit. */
export function exceedance(feature: Pick<AnyFeature, 'tolerance'>, value: number): number {
	const { upper, lower } = feature.tolerance;
	// a form error has its best at nothing
	const [middle, half] = lower === undefined ? [0, upper] : [(upper + lower) / 2, (upper - lower) / 2];
	return (value - middle) / half;
}

export const featureCost = (features: readonly AnyFeature[], values: readonly number[], goals: SearchGoals): number =>
	features.reduce((s, f, i) => s + (goals.features[f.id] ?? 1) * exceedance(f, values[i]) ** 2, 0);
