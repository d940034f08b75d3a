/**
 * The search as a planner sees it: every school that applies and the order found, weighed alike by the final shape, the two
 * best by the full method too, each against the plan as it stands; with reasons, and with what matters more where order hardly does.
 */
import { Refusal } from '../refusal/refusal';
import { FLIP_S } from '../estimate/estimate';
import { ForecastCache, scalesOf, type Analysis } from '../forecast/analysis';
import { comparePlans } from '../forecast/compare';
import { unitOf } from '../features';
import { finalForecast, finalValues } from '../forecast/finalForecast';
import { forecast, type QuickForecast } from '../forecast/forecast';
import { fullForecast } from '../forecast/fullForecast';
import { priorFactors, type ShopFactors } from '../factors/factors';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { ORDER_PATTERNS, ORDER_SCHOOLS, type OrderPattern } from '../schools/orders';
import { orderDoesNotApply, orderPattern } from '../schools/orderPattern';
import { flipsOf, liesFor } from '../layout/positions';
import { feasibleOrder, precedenceOf } from './precedence';
import type { PlanDocument, Run } from '../document/schema';
import { featureCost, type SearchGoals } from './cost';
import { reasonsFor } from './reasons';
import { OrderSearch, Stopped } from './search';
import { fitOf, seenIn, type Seen } from './level';
import { whatMattersMore, type Lever } from './levers';

export interface TableCell {
	/** by the final shape */
	value: number;
	/** against the plan as it stands: final shapes, with the paired band of the quick method */
	difference: { predicted: number; low: number; high: number };
	/** by the full method, for the best two */
	full?: number;
}

export interface TableRow {
	id: string;
	name: string;
	kind: 'now' | 'school' | 'search';
	runs: Run[];
	/** by feature of the plan, in order */
	cells: TableCell[];
	/** weighted features, time, heat and flips together, by the final shape: lower is better */
	cost: number;
	totalS: number;
	waitS: number;
	flips: number;
	hottestC: number;
	/** what went wrong with this row, or empty */
	note: string;
}

export interface SearchResult {
	rows: TableRow[];
	features: { id: string; name: string; unit: 'mm' | '°' }[];
	/** schools that do not apply, and why */
	leftOut: { pattern: OrderPattern; why: string }[];
	reasons: string[];
	/** largest change that order makes to any feature, as a share of its band; below a quarter it hardly matters */
	orderMatters: number;
	matters: string;
	levers: Lever[];
	evaluated: number;
	/** [orders weighed, cost of the best so far] */
	history: [number, number][];
	stopped: boolean;
	/** whether the full method keeps the best two in their order, where it has been asked */
	byFull?: 'kept' | 'turned';
	/** false where the plan's final shape was not found, and the values are the quick method's */
	byFinal: boolean;
}

export interface BestSoFar {
	phase: string;
	share: number;
	evaluated: number;
	/** the best order */
	runs: Run[];
	cost: number;
	startCost: number;
	values: number[];
	history: [number, number][];
}

export interface SearchOptions {
	factors?: ShopFactors;
	kernel?: KernelFactory;
	runLengthMm?: number;
	/** the best two by the full method as well */
	full?: boolean;
	tell?: (p: BestSoFar) => void;
	/** asked often: true ends the search with what there is */
	stop?: () => boolean;
}

/** A search on one cut of the seams. */
interface Lane {
	search: OrderSearch;
	analysis: Analysis;
}

/** A row with what the search needs of it. */
interface WeighedRow extends TableRow {
	lane?: Lane;
	/** by feature */
	seen: Seen[];
	/** false where the final shape was found for a part of the load only: such values must not lead the table, nor teach anything */
	isFound: boolean;
}
const shownRow = ({ lane: _lane, seen: _seen, isFound: _isFound, ...row }: WeighedRow): TableRow => row;

/** What becomes a row. */
interface Candidate {
	id: string;
	name: string;
	kind: TableRow['kind'];
	runs: Run[];
	/** of an order that was found */
	lane?: Lane;
}

/** Going on, what is gained may be lost again where the linear piece leads astray: orders at these shares of the way are weighed by the final shape too. */
const WAYPOINTS = [0.1, 0.25, 0.5, 0.75];

/** Orders one step from a school that still leads, weighed by the final shape. */
const STEPS = 6;

/** Order hardly matters where it moves no feature by more than this share of its band. */
const HARDLY = 0.25;

/** @throws RangeError where the plan has nothing to search, or no order keeps its limits */
export function searchOrders(plan: PlanDocument, goals: SearchGoals, options: SearchOptions = {}): SearchResult {
	const factors = options.factors ?? priorFactors();
	const cache = new ForecastCache(options.kernel);
	const scales = scalesOf(factors.mean);
	const stop = options.stop ?? (() => false);
	const state: BestSoFar = { phase: 'Condensing the piece', share: 0, evaluated: 0, runs: [], cost: 0, startCost: 0, values: [], history: [] };
	const tell = (change: Partial<BestSoFar>) => options.tell?.(Object.assign(state, change));
	tell({});
	const now = forecast(plan, { factors, cache, progress: (s) => tell({ share: 0.08 * s }) });
	const warm = now.warmed();
	tell({ phase: 'Heat of each run', share: 0.1 });
	const search = new OrderSearch(now.analysis, scales, goals, warm.analysis, (s) => tell({ share: 0.1 + 0.08 * s }));
	const runLengthMm = options.runLengthMm ?? usualLength(plan.runs);
	const leftOut: SearchResult['leftOut'] = [];
	const schools: { pattern: OrderPattern; runs: Run[] }[] = [];
	for (const pattern of ORDER_PATTERNS) {
		const rule = { pattern, runLengthMm };
		const why = orderDoesNotApply(plan, rule);
		if (why) leftOut.push({ pattern, why });
		else
			try {
				const runs = orderPattern(plan, rule);
				schools.push({ pattern, runs: feasibleOrder(runs, precedenceOf({ ...plan, runs }, now.analysis.mesh)) });
			} catch (e) {
				if (!(e instanceof Refusal)) throw e;
				leftOut.push({ pattern, why: e.message });
			}
	}
	const history: [number, number][] = [];
	let stopped = false;
	let evaluated = 0;
	/** one search, its finalists as rows to be weighed by the final shape, and some orders on the way to them */
	const follow = (lane: Lane, starts: readonly (readonly Run[])[], from: number, to: number, waypoints: readonly number[] = []): Candidate[] => {
		const before = lane.search.evaluated;
		const found = lane.search.run(
			starts.map((runs) => lane.search.layingOf(runs)).filter((l) => l !== undefined),
			(p) => {
				if (p.best.cost < history[history.length - 1][1]) history.push([evaluated + p.evaluated - before, p.best.cost]);
				tell({
					share: from + (to - from) * p.share,
					evaluated: evaluated + p.evaluated - before,
					...(p.best.cost <= history[history.length - 1][1] ? { cost: p.best.cost, values: p.best.values, runs: lane.search.runsOf(p.order) } : {})
				});
				if (stop()) throw new Stopped();
			}
		);
		evaluated += lane.search.evaluated - before;
		stopped ||= found.stopped;
		const { path } = found;
		const onTheWay = [...new Set(waypoints.map((share) => Math.round(share * (path.length - 1))))].filter((i) => i > 0 && i < path.length - 1);
		return [...found.finalists, ...onTheWay.map((i) => path[i])].map((order, i) => ({
			id: i ? `search-${i + 1}` : 'search',
			name: 'Found by the search',
			kind: 'search' as const,
			runs: lane.search.runsOf(order),
			lane
		}));
	};
	tell({ phase: 'Final shape: The plan as it stands', share: 0.18 });
	const unlessStopped = () => {
		if (stop()) throw new Stopped();
	};
	const finalNow = stoppable(() => finalValues(now, factors, unlessStopped)) ?? { values: [], words: 'The search was stopped before.' };
	// where the plan's own shape is not found, nothing can be held against it: the quick method, with the heat of earlier runs, stands in
	const byFinal = !finalNow.words;
	// once stopped, what is weighed still is finished
	const finalOf = (c: Candidate, quick: QuickForecast) =>
		!byFinal ? undefined : c.kind === 'now' ? finalNow : finalValues(quick, factors, stopped ? undefined : unlessStopped);
	const rows: WeighedRow[] = [];
	let nowFinal: number[] = [];
	const weighAll = (list: readonly Candidate[], from: number, to: number) =>
		list.forEach((c, i) => {
			// stopped: the plan and the best that was found are still compared, the schools and lesser finds no more
			if (stop()) stopped = true;
			const isOwed = c.kind === 'now' || c.id === 'search';
			if (stopped && !isOwed) return;
			tell({ phase: `${byFinal ? 'Final shape' : 'Quick method'}: ${c.name}`, share: from + ((to - from) * i) / list.length });
			const weigh = () => rowFor(plan, c, finalOf, search, factors, cache, goals);
			let weighed = stoppable(weigh);
			if (!weighed) {
				stopped = true;
				if (!isOwed) return;
				weighed = weigh();
			}
			const row = { ...weighed, lane: c.lane };
			if (c.kind === 'now') nowFinal = row.cells.map((x) => x.value);
			row.cells.forEach(
				(x, k) =>
					(x.difference = {
						predicted: x.value - nowFinal[k],
						low: x.difference.low + x.value - nowFinal[k],
						high: x.difference.high + x.value - nowFinal[k]
					})
			);
			rows.push(row);
			rows.sort((p, q) => Number(q.isFound) - Number(p.isFound) || p.cost - q.cost);
		});
	weighAll([{ id: 'now', name: 'The plan as it stands', kind: 'now', runs: plan.runs }], 0.18, 0.2);
	if (byFinal) search.levelTo(search.given, nowFinal);
	const begun = search.weigh(search.given, undefined, false);
	history.push([0, begun.cost]);
	tell({ phase: 'Searching', share: 0.2, cost: begun.cost, startCost: begun.cost, values: begun.values, history });
	const own: Lane = { search, analysis: now.analysis };
	const lanes = [own];
	/** by feature, from all the final shapes there are */
	const fits = () => plan.features.map((_, k) => fitOf(rows.filter((r) => r.isFound).map((r) => ({ ...r.seen[k], final: r.cells[k].value }))));
	const finalists = follow(
		own,
		schools.map((s) => s.runs),
		0.2,
		0.52
	);
	weighAll(
		[...finalists, ...schools.map((s): Candidate => ({ id: s.pattern, name: ORDER_SCHOOLS[s.pattern].name, kind: 'school', runs: s.runs }))],
		0.52,
		0.66
	);
	// what leads by the final shape is gone on from: in its cut, with features levelled by all the final shapes there are
	const [ahead] = rows;
	if (byFinal && !stopped && ahead.runs.length > 1) {
		const same = search.layingOf(ahead.runs);
		let second: Lane = own;
		if (!same) {
			tell({ phase: `Condensing runs cut as in “${ahead.name}”`, share: 0.66 });
			const quick = forecast({ ...plan, runs: ahead.runs }, { factors, cache });
			second = { analysis: quick.analysis, search: new OrderSearch(quick.analysis, scales, goals, quick.warmed().analysis) };
			lanes.push(second);
		}
		tell({ phase: ahead.kind === 'search' ? 'Searching on' : `Searching on from “${ahead.name}”`, share: 0.68 });
		second.search.levelTo(
			same ?? second.search.given,
			ahead.cells.map((c) => c.value),
			fits()
		);
		weighAll(
			follow(
				second,
				rows.map((r) => r.runs),
				0.68,
				0.74,
				WAYPOINTS
			),
			0.74,
			0.78
		);
	}
	// still behind a school or the plan itself: orders one step from that one, chosen among by the final shape alone
	const [leader] = rows;
	if (byFinal && !stopped && leader.kind !== 'search' && leader.runs.length > 1) {
		const near = lanes.find((l) => l.search.layingOf(leader.runs))!;
		const from = near.search.layingOf(leader.runs)!;
		tell({ phase: `One step from “${leader.name}”`, share: 0.78 });
		near.search.levelTo(
			from,
			leader.cells.map((c) => c.value),
			fits()
		);
		const before = near.search.evaluated;
		const steps = near.search.neighbours(from, STEPS);
		evaluated += near.search.evaluated - before;
		weighAll(
			steps.map((o, i): Candidate => ({ id: `step-${i + 1}`, name: 'Found by the search', kind: 'search', runs: near.search.runsOf(o), lane: near })),
			0.78,
			0.8
		);
	}
	// of the orders the searches ended at, the final shape has chosen one: the others leave the table
	const chosen = rows.find((r) => r.kind === 'search')!;
	const lane = chosen.lane!;
	for (let i = rows.length - 1; i >= 0; i--) if (rows[i].kind === 'search' && rows[i] !== chosen) rows.splice(i, 1);
	const order = lane.search.layingOf(chosen.runs)!;
	chosen.id = 'search';
	if (options.full && byFinal && !stopped)
		for (const [i, row] of rows.slice(0, 2).entries()) {
			const full = stoppable(() =>
				fullForecast(forecast({ ...plan, runs: row.runs }, { factors, cache }), {
					factors,
					progress: (s) => {
						tell({ phase: `Full method: ${row.name}`, share: 0.8 + 0.1 * (i + s) });
						unlessStopped();
					}
				})
			);
			stopped ||= !full;
			if (!full) break;
			full.result.features.forEach((f, k) => (row.cells[k].full = f.predicted));
		}
	tell({ phase: 'Reasons', share: 0.98 });
	// the forecast's own band, to hold the differences against; stopped early, the quick method's stands for it
	const own90 =
		(stopped || !byFinal ? undefined : stoppable(() => finalForecast(now, { factors, progress: unlessStopped }).result.features)) ??
		now.result.features;
	if (stop()) stopped = true;
	const band = own90.map((f) => f.high - f.low);
	const spread = plan.features.map((_, k) => {
		const v = rows.map((r) => r.cells[k].value);
		return Math.max(...v) - Math.min(...v);
	});
	const shares = spread.map((s, k) => (band[k] > 0 ? s / band[k] : 0));
	const orderMatters = Math.max(0, ...shares);
	const most = shares.indexOf(orderMatters);
	const hardly = orderMatters < HARDLY;
	const shown = (k: number, v: number) => `${v.toFixed(2)} ${unitOf(plan.features[k]) === 'mm' ? 'mm' : '°'}`;
	const matters = !plan.features.length
		? 'The plan names no feature, so only time, heat and flips were weighed. Add features on the Job page.'
		: hardly
			? `On this piece order hardly matters: between the best and the worst of these orders “${plan.features[most].name}” differs by ${shown(most, spread[most])}, ${(100 * orderMatters).toFixed(0)} % of the forecast's own band. What follows matters more.`
			: `Order matters most for “${plan.features[most].name}”: ${shown(most, spread[most])} between the best and the worst of these orders, ${(100 * orderMatters).toFixed(0)} % of the forecast's band.`;
	const [first, next] = rows;
	const byFull = fullOrder(plan, first, next, goals);
	const doubt =
		byFull === 'turned'
			? ` By the full method “${next.name}” comes out ahead of “${first.name}”: do not count on the difference between the two.`
			: '';
	// the search goes by the condensed, linear piece; the table by the final shape
	const beaten = !byFinal
		? ` The final shape of the plan as it stands was not found (${finalNow.words.replace(/\.$/, '')}), so this table goes by the quick method with the heat of earlier runs: no waves and no dishing are in it.`
		: first !== chosen && chosen.cost <= first.cost * (1 + 1e-9)
			? ` The search found no better order than “${first.name}”.`
			: first !== chosen
				? ` By the final shape “${first.name}” comes out ahead of what the search found by the quick method (${first.cost.toFixed(3)} against ${chosen.cost.toFixed(3)}).`
				: '';
	const levers = stopped ? [] : whatMattersMore(plan, goals, factors, options.kernel);
	tell({ phase: 'Done', share: 1 });
	return {
		rows: rows.map(shownRow),
		features: plan.features.map((f) => ({ id: f.id, name: f.name, unit: unitOf(f) })),
		leftOut,
		reasons: [
			...(lane === own ? [] : [`The seams are cut as in “${ahead.name}”: ${plural(chosen.runs.length, 'run')} instead of ${plan.runs.length}.`]),
			...reasonsFor(lane.search, lane.analysis, order, lane.search.weigh(order), lane.search.weigh(lane.search.given, undefined, false))
		],
		orderMatters,
		matters: matters + beaten + doubt,
		byFull,
		levers,
		evaluated,
		history: [...history, [evaluated, history[history.length - 1][1]]],
		stopped,
		byFinal
	};
}

/** The best two by their features at full depth. */
function fullOrder(plan: PlanDocument, first: TableRow, next: TableRow | undefined, goals: SearchGoals): SearchResult['byFull'] {
	if (!next || [first, next].some((r) => r.cells.some((c) => c.full === undefined))) return undefined;
	const of = (r: TableRow) =>
		featureCost(
			plan.features,
			r.cells.map((c) => c.full!),
			goals
		);
	return of(first) <= of(next) ? 'kept' : 'turned';
}

/** What the work gives, or nothing where it was stopped. */
function stoppable<T>(work: () => T): T | undefined {
	try {
		return work();
	} catch (e) {
		if (e instanceof Stopped) return undefined;
		throw e;
	}
}

const plural = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

/** The median length of the runs: what schools cut the seams into. */
export function usualLength(runs: readonly Run[]): number {
	const lengths = runs.map((r) => Math.abs(r.toMm - r.fromMm)).sort((a, b) => a - b);
	return lengths.length ? lengths[Math.floor(lengths.length / 2)] : 50;
}

function rowFor(
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
