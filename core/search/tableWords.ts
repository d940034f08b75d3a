/** What the table comes to, in words: does order matter here, and which order leads by which method. */
import type { PlanDocument } from '../document/schema';
import { unitOf } from '../features';
import { featureCost, type SearchGoals } from './cost';
import type { TableRow } from './table';

/** Order hardly matters where it moves no feature by more than this share of its band. */
const HARDLY = 0.25;

/** @param bands width of each feature's own band @param by what the table stands by */
export function howMuchOrderMatters(
	plan: PlanDocument,
	rows: readonly TableRow[],
	bands: readonly number[],
	by: 'value' | 'hot' = 'value'
): { share: number; words: string } {
	const spread = plan.features.map((_, k) => {
		const v = rows.map((r) => r.cells[k][by]).filter((x) => x !== undefined);
		return Math.max(...v) - Math.min(...v);
	});
	const shares = spread.map((s, k) => (bands[k] > 0 ? s / bands[k] : 0));
	const share = Math.max(0, ...shares);
	if (!plan.features.length)
		return { share, words: 'The plan names no feature, so only time, heat and flips were weighed. Add features on the Job page.' };
	const most = shares.indexOf(share);
	const moved = `${spread[most].toFixed(2)} ${unitOf(plan.features[most])} between the best and the worst of these orders, ${(100 * share).toFixed(0)} % of the forecast’s own band`;
	const name = plan.features[most].name;
	return {
		share,
		words:
			share < HARDLY
				? `On this piece order hardly matters: “${name}” differs by ${moved}. What follows matters more.`
				: `Order matters most for “${name}”: ${moved}.`
	};
}

/** The best two by their features by the full method. */
export function fullOrder(plan: PlanDocument, first: TableRow, next: TableRow | undefined, goals: SearchGoals): 'kept' | 'turned' | undefined {
	if (!next || [first, next].some((r) => r.cells.some((c) => c.full === undefined))) return undefined;
	const of = (r: TableRow) =>
		featureCost(
			plan.features,
			r.cells.map((c) => c.full!),
			goals
		);
	return of(first) <= of(next) ? 'kept' : 'turned';
}

interface Standing {
	/** why the plan’s own final shape was not found, or empty */
	notFound: string;
	/** what leads by the final shape, where the table goes by the watched arcs */
	finalLeader?: TableRow;
	/** how many rows have their arcs watched, where there was too much seam for all */
	watchedRows?: number;
}

/** The search goes by the condensed, linear piece, the table by the final shape or the watched arcs: said where they do not agree. */
export function inWords(
	matters: string,
	rows: readonly TableRow[],
	chosen: TableRow,
	plan: PlanDocument,
	goals: SearchGoals,
	{ notFound, finalLeader, watchedRows }: Standing
): string {
	const [first, next] = rows;
	const costOf = (r: TableRow) => (finalLeader ? r.hotCost! : r.cost);
	let beaten = '';
	if (notFound)
		beaten = ` The final shape of the plan as it stands was not found (${notFound.replace(/\.$/, '')}), so this table goes by the quick method with the heat of earlier runs: no waves and no dishing are in it.`;
	else if (first !== chosen)
		beaten =
			costOf(chosen) <= costOf(first) * (1 + 1e-9)
				? ` The search found no better order than “${first.name}”.`
				: ` ${finalLeader ? 'With each arc watched' : 'By the final shape'} “${first.name}” comes out ahead of what the search found by the quick method (${costOf(first).toFixed(3)} against ${costOf(chosen).toFixed(3)}).`;
	const overtaken =
		finalLeader && finalLeader !== first && finalLeader !== chosen
			? ` By the final shape alone “${finalLeader.name}” would lead; with each arc watched it does not (${finalLeader.hotCost!.toFixed(3)} against ${first.hotCost!.toFixed(3)}).`
			: '';
	const doubt =
		fullOrder(plan, first, next, goals) === 'turned'
			? ` “${next.name}” comes out ahead of “${first.name}” by the full method: do not count on the difference between the two.`
			: '';
	const some = watchedRows
		? ` There is too much seam to watch every arc of every order: the first ${watchedRows} have theirs watched, and the table stands by the final shape.`
		: '';
	return matters + beaten + overtaken + some + doubt;
}
