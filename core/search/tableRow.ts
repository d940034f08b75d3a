/** One order in the table: its plan forecast and weighed. */
import type { PlanDocument, Run } from '../document/schema';
import { FLIP_S } from '../estimate/estimate';
import type { ShopFactors } from '../factors/factors';
import { scalesOf, type Analysis, type ForecastCache } from '../forecast/analysis';
import { comparePlans } from '../forecast/compare';
import { forecast, type QuickForecast } from '../forecast/forecast';
import { flipsOf, liesFor } from '../layout/positions';
import { featureCost, type SearchGoals } from './cost';
import { seenIn, type Seen } from './level';
import type { OrderSearch } from './search';
import type { TableRow } from './table';

/** A search on one cut of the seams. */
export interface Lane {
	search: OrderSearch;
	analysis: Analysis;
}

/** A row with what the search needs of it. */
export interface WeighedRow extends TableRow {
	lane?: Lane;
	/** by feature */
	seen: Seen[];
	/** false where the final shape was found for a part of the load only: such values must not lead the table, nor teach anything */
	isFound: boolean;
}
export const shownRow = ({ lane: _lane, seen: _seen, isFound: _isFound, ...row }: WeighedRow): TableRow => row;

/** What becomes a row. */
export interface Candidate {
	id: string;
	name: string;
	kind: TableRow['kind'];
	runs: Run[];
	/** of an order that was found */
	lane?: Lane;
}

export function rowFor(
	plan: PlanDocument,
	candidate: Candidate,
	finalOf: (c: Candidate, quick: QuickForecast) => { values: number[]; words: string } | undefined,
	search: OrderSearch,
	factors: ShopFactors,
	cache: ForecastCache,
	goals: SearchGoals
): Omit<WeighedRow, 'lane'> {
	const { id, name, kind, runs } = candidate;
	const then = { ...plan, runs };
	const quick = forecast(then, { factors, cache });
	const warm = quick.warmed().analysis;
	const seen = seenIn(warm, scalesOf(factors.mean));
	const { values, words } = finalOf(candidate, quick) ?? { values: seen.map((x) => x.linear), words: '' };
	const heat = warm.heat!;
	const pairs = comparePlans(plan, then, factors, { now: cache, then: cache }, true);
	const lies = liesFor(runs, search.positions);
	const flips = flipsOf(lies);
	const totalS = heat.totalS + flips * FLIP_S;
	const hottestC = Math.max(plan.ambientC, ...heat.runs.map((r) => r.hottestC));
	return {
		id,
		name,
		kind,
		runs,
		seen,
		isFound: !words,
		cells: values.map((value, k) => {
			const d = pairs.features.find((f) => f.id === plan.features[k].id)!.difference;
			// offsets of the band about its own middle: laid about the final shape's difference by the caller
			return { value, difference: { predicted: 0, low: d.low - d.predicted, high: d.high - d.predicted } };
		}),
		cost:
			featureCost(plan.features, values, goals) +
			goals.time * (totalS / 3600) +
			goals.heat * ((hottestC - plan.ambientC) / (plan.interpassLimitC - plan.ambientC)) ** 2 +
			goals.flip * flips,
		totalS,
		waitS: heat.runs.reduce((s, r) => s + r.waitS, 0),
		flips,
		hottestC,
		note: [words, heat.tooHot.length ? `${heat.tooHot.length} runs stay above the interpass ceiling.` : ''].filter(Boolean).join(' ')
	};
}
