/**
 * The search behind the table, phase by phase: the plan and its schools, a search on the plan's own cut, going on from whatever leads
 * by the final shape, one step from a school that still leads, every row with its arcs watched, the full method for the best two, and
 * what to say of it all.
 */
import type { PlanDocument, Run } from '../document/schema';
import { priorFactors, type ShopFactors } from '../factors/factors';
import { unitOf } from '../features';
import { ForecastCache, scalesOf, type Scales } from '../forecast/analysis';
import { finalForecast, finalValues } from '../forecast/finalForecast';
import { forecast, type QuickForecast } from '../forecast/forecast';
import { fullForecast } from '../forecast/fullForecast';
import { HotMemory } from '../hot/factors';
import { watchedFactors } from '../hot/hotForecast';
import { Refusal } from '../refusal/refusal';
import { orderDoesNotApply, orderPattern } from '../schools/orderPattern';
import { ORDER_PATTERNS, ORDER_SCHOOLS, type OrderPattern } from '../schools/orders';
import { featureCost, type SearchGoals } from './cost';
import { fitOf } from './level';
import { whatMattersMore } from './levers';
import { feasibleOrder, precedenceOf } from './precedence';
import { reasonsFor } from './reasons';
import { OrderSearch, Stopped } from './search';
import { usualLength, type BestSoFar, type SearchOptions, type SearchResult } from './table';
import { rowFor, shownRow, type Candidate, type Lane, type WeighedRow } from './tableRow';
import { fullOrder, howMuchOrderMatters, inWords } from './tableWords';

/** Going on, what is gained may be lost again where the linear piece leads astray: orders at these shares of the way are weighed by the final shape too. */
const WAYPOINTS = [0.1, 0.25, 0.5, 0.75];

/**
 * mm of unlike seams that are watched for one table: some ten minutes. Of rows beyond that only the best two are; counted alike whether a
 * seam is marched or looked up, so that the table does not hang on what other jobs have had.
 */
const MOST_WATCHED_MM = 6000;

/** Orders one step from a school that still leads, weighed by the final shape. */
const STEPS = 6;

/** @throws Refusal where the plan has nothing to search, or no order keeps its limits */
export const searchOrders = (plan: PlanDocument, goals: SearchGoals, options: SearchOptions = {}): SearchResult =>
	new TableSearch(plan, goals, options).result();

class TableSearch {
	private readonly factors: ShopFactors;
	private readonly cache: ForecastCache;
	private readonly scales: Scales;
	private readonly state: BestSoFar = {
		phase: 'Condensing the piece',
		share: 0,
		evaluated: 0,
		runs: [],
		cost: 0,
		startCost: 0,
		values: [],
		history: []
	};
	private readonly now: QuickForecast;
	/** on the plan's own cut of the seams */
	private readonly own: Lane;
	private readonly lanes: Lane[];
	private readonly leftOut: SearchResult['leftOut'] = [];
	private readonly schools: { pattern: OrderPattern; runs: Run[] }[] = [];
	private readonly history: [number, number][] = [];
	private readonly rows: WeighedRow[] = [];
	private readonly finalNow: { values: number[]; words: string };
	private nowValues: number[] = [];
	private stopped = false;
	private byHot?: SearchResult['byHot'];
	/** what leads by the final shape, where the table goes by more than that */
	private finalLeader?: WeighedRow;
	/** so many rows have their arcs watched; where not all of them could */
	private watchedRows?: number;
	private evaluated = 0;

	constructor(
		private readonly plan: PlanDocument,
		private readonly goals: SearchGoals,
		private readonly options: SearchOptions
	) {
		this.factors = options.factors ?? priorFactors();
		this.cache = new ForecastCache(options.kernel);
		this.scales = scalesOf(this.factors.mean);
		this.tell({});
		this.now = forecast(plan, { factors: this.factors, cache: this.cache, progress: (s) => this.tell({ share: 0.08 * s }) });
		this.tell({ phase: 'Heat of each run', share: 0.1 });
		const warm = this.now.warmed().analysis;
		const search = new OrderSearch(this.now.analysis, this.scales, goals, warm, (s) => this.tell({ share: 0.1 + 0.08 * s }));
		this.own = { search, analysis: this.now.analysis };
		this.lanes = [this.own];
		this.gatherSchools(options.runLengthMm ?? usualLength(plan.runs));
		this.tell({ phase: 'Final shape: The plan as it stands', share: 0.18 });
		this.finalNow = stoppable(() => finalValues(this.now, this.factors, this.unlessStopped)) ?? {
			values: [],
			words: 'The search was stopped before.'
		};
	}

	result(): SearchResult {
		this.weighPlan();
		this.searchOwnCut();
		// what leads by the final shape is gone on from: in its cut, with features levelled by all the final shapes there are
		const [ahead] = this.rows;
		if (this.mayGoOn(ahead)) this.goOnFrom(ahead);
		// still behind a school or the plan itself: orders one step from that one, chosen among by the final shape alone
		const [leader] = this.rows;
		if (leader.kind !== 'search' && this.mayGoOn(leader)) this.oneStepFrom(leader);
		const chosen = this.keepOneFound();
		if (this.options.full && this.byFinal && !this.stopped) this.watchAll();
		if (this.options.full && this.byFinal && !this.stopped) this.askFull();
		return this.told(chosen, ahead);
	}

	/** false where the plan's own shape is not found: nothing can be held against it then, and the quick method stands in */
	private get byFinal(): boolean {
		return !this.finalNow.words;
	}
	private tell(change: Partial<BestSoFar>) {
		this.options.tell?.(Object.assign(this.state, change));
	}
	private stop(): boolean {
		return this.options.stop?.() ?? false;
	}
	private readonly unlessStopped = () => {
		if (this.stop()) throw new Stopped();
	};
	private mayGoOn(row: WeighedRow): boolean {
		return this.byFinal && !this.stopped && row.runs.length > 1;
	}

	private gatherSchools(runLengthMm: number) {
		for (const pattern of ORDER_PATTERNS) {
			const rule = { pattern, runLengthMm };
			const why = orderDoesNotApply(this.plan, rule);
			if (why) {
				this.leftOut.push({ pattern, why });
				continue;
			}
			try {
				const runs = orderPattern(this.plan, rule);
				this.schools.push({ pattern, runs: feasibleOrder(runs, precedenceOf({ ...this.plan, runs }, this.now.analysis.mesh)) });
			} catch (e) {
				if (!(e instanceof Refusal)) throw e;
				this.leftOut.push({ pattern, why: e.message });
			}
		}
	}

	private weighPlan() {
		this.weighAll([{ id: 'now', name: 'The plan as it stands', kind: 'now', runs: this.plan.runs }], 0.18, 0.2);
		const { search } = this.own;
		if (this.byFinal) search.levelTo(search.given, this.nowValues);
		const begun = search.weigh(search.given, undefined, false);
		this.history.push([0, begun.cost]);
		this.tell({ phase: 'Searching', share: 0.2, cost: begun.cost, startCost: begun.cost, values: begun.values, history: this.history });
	}

	private searchOwnCut() {
		const finalists = this.follow(
			this.own,
			this.schools.map((s) => s.runs),
			0.2,
			0.52
		);
		const schools = this.schools.map((s): Candidate => ({ id: s.pattern, name: ORDER_SCHOOLS[s.pattern].name, kind: 'school', runs: s.runs }));
		this.weighAll([...finalists, ...schools], 0.52, 0.66);
	}

	private goOnFrom(ahead: WeighedRow) {
		const same = this.own.search.layingOf(ahead.runs);
		const lane = same ? this.own : this.newLane(ahead);
		this.tell({ phase: ahead.kind === 'search' ? 'Searching on' : `Searching on from “${ahead.name}”`, share: 0.68 });
		lane.search.levelTo(
			same ?? lane.search.given,
			ahead.cells.map((c) => c.value),
			this.fits()
		);
		const starts = this.rows.map((r) => r.runs);
		this.weighAll(this.follow(lane, starts, 0.68, 0.74, WAYPOINTS), 0.74, 0.78);
	}

	private newLane(ahead: WeighedRow): Lane {
		this.tell({ phase: `Condensing runs cut as in “${ahead.name}”`, share: 0.66 });
		const quick = forecast({ ...this.plan, runs: ahead.runs }, { factors: this.factors, cache: this.cache });
		const lane = { analysis: quick.analysis, search: new OrderSearch(quick.analysis, this.scales, this.goals, quick.warmed().analysis) };
		this.lanes.push(lane);
		return lane;
	}

	private oneStepFrom(leader: WeighedRow) {
		const near = this.lanes.find((l) => l.search.layingOf(leader.runs))!;
		const from = near.search.layingOf(leader.runs)!;
		this.tell({ phase: `One step from “${leader.name}”`, share: 0.78 });
		near.search.levelTo(
			from,
			leader.cells.map((c) => c.value),
			this.fits()
		);
		const before = near.search.evaluated;
		const steps = near.search.neighbours(from, STEPS);
		this.evaluated += near.search.evaluated - before;
		this.weighAll(
			steps.map((o, i): Candidate => ({ id: `step-${i + 1}`, name: 'Found by the search', kind: 'search', runs: near.search.runsOf(o), lane: near })),
			0.78,
			0.8
		);
	}

	/** Of the orders the searches ended at, the final shape has chosen one: the others leave the table. */
	private keepOneFound(): WeighedRow {
		const chosen = this.rows.find((r) => r.kind === 'search')!;
		for (let i = this.rows.length - 1; i >= 0; i--) if (this.rows[i].kind === 'search' && this.rows[i] !== chosen) this.rows.splice(i, 1);
		chosen.id = 'search';
		return chosen;
	}

	/** Every row with each arc watched, best first: the table goes by that where it has all of them. */
	private watchAll() {
		const memory = new HotMemory(this.options.kernel, this.options.hotAnswers);
		const [leader] = this.rows;
		for (const [i, row] of this.rows.entries()) {
			if (i >= 2 && memory.askedMm > (this.options.mostWatchedMm ?? MOST_WATCHED_MM)) {
				this.watchedRows = i;
				return;
			}
			const tell = (share: number) => {
				this.tell({ phase: `Arc by arc: ${row.name}`, share: 0.8 + (0.1 * (i + share)) / this.rows.length });
				this.unlessStopped();
			};
			const watched = stoppable(() => {
				const quick = forecast({ ...this.plan, runs: row.runs }, { factors: this.factors, cache: this.cache });
				const factors = watchedFactors(quick, { isCold: true, memory, kernel: this.options.kernel, progress: (s) => tell(0.8 * s) });
				return finalValues(quick.watched(factors), this.factors, (s) => tell(0.8 + 0.2 * s));
			});
			this.stopped ||= !watched;
			if (!watched) return;
			if (watched.words) continue;
			row.cells.forEach((c, k) => (c.hot = watched.values[k]));
			const costOf = (values: number[]) => featureCost(this.plan.features, values, this.goals);
			row.hotCost = row.cost - costOf(row.cells.map((c) => c.value)) + costOf(watched.values);
		}
		if (this.rows.some((r) => r.isFound && r.hotCost === undefined)) return;
		this.rows.sort((p, q) => Number(q.isFound) - Number(p.isFound) || p.hotCost! - q.hotCost!);
		this.byHot = this.rows[0] === leader ? 'kept' : 'turned';
		this.finalLeader = leader;
	}

	/** The best two by the full method as well. */
	private askFull() {
		for (const [i, row] of this.rows.slice(0, 2).entries()) {
			const tell = (share: number) => {
				this.tell({ phase: `Full method: ${row.name}`, share: 0.9 + 0.04 * (i + share) });
				this.unlessStopped();
			};
			const full = stoppable(() => {
				const quick = forecast({ ...this.plan, runs: row.runs }, { factors: this.factors, cache: this.cache });
				return fullForecast(quick, { factors: this.factors, progress: tell }).result.features.map((f) => f.predicted);
			});
			this.stopped ||= !full;
			if (!full) return;
			row.cells.forEach((c, k) => (c.full = full[k]));
		}
	}

	private told(chosen: WeighedRow, ahead: WeighedRow): SearchResult {
		const { plan, rows, history, options } = this;
		this.tell({ phase: 'Reasons', share: 0.98 });
		const matters = howMuchOrderMatters(plan, rows, this.bands(), this.byHot ? 'hot' : 'value');
		const lane = chosen.lane!;
		const { search } = lane;
		const order = search.layingOf(chosen.runs)!;
		const levers = this.stopped ? [] : whatMattersMore(plan, this.goals, this.factors, options.kernel);
		this.tell({ phase: 'Done', share: 1 });
		return {
			rows: rows.map(shownRow),
			features: plan.features.map((f) => ({ id: f.id, name: f.name, unit: unitOf(f) })),
			leftOut: this.leftOut,
			reasons: [
				...(lane === this.own
					? []
					: [`The seams are cut as in “${ahead.name}”: ${plural(chosen.runs.length, 'run')} instead of ${plan.runs.length}.`]),
				...reasonsFor(search, lane.analysis, order, search.weigh(order), search.weigh(search.given, undefined, false))
			],
			orderMatters: matters.share,
			matters: inWords(matters.words, rows, chosen, plan, this.goals, {
				notFound: this.finalNow.words,
				finalLeader: this.finalLeader,
				watchedRows: this.watchedRows
			}),
			byFull: fullOrder(plan, rows[0], rows[1], this.goals),
			byHot: this.byHot,
			levers,
			evaluated: this.evaluated,
			history: [...history, [this.evaluated, history[history.length - 1][1]]],
			stopped: this.stopped,
			byFinal: this.byFinal
		};
	}

	/** The forecast's own band, to hold the differences against; stopped early, the quick method's stands for it. */
	private bands(): number[] {
		const asked = this.stopped || !this.byFinal;
		const final = asked
			? undefined
			: stoppable(() => finalForecast(this.now, { factors: this.factors, progress: this.unlessStopped }).result.features);
		if (this.stop()) this.stopped = true;
		return (final ?? this.now.result.features).map((f) => f.high - f.low);
	}

	/** by feature, from all the final shapes there are */
	private fits() {
		return this.plan.features.map((_, k) => fitOf(this.rows.filter((r) => r.isFound).map((r) => ({ ...r.seen[k], final: r.cells[k].value }))));
	}

	/** One search, its finalists as rows to be weighed by the final shape, and some orders on the way to them. */
	private follow(lane: Lane, starts: readonly (readonly Run[])[], from: number, to: number, waypoints: readonly number[] = []): Candidate[] {
		const { history } = this;
		const { search } = lane;
		const before = search.evaluated;
		const found = search.run(
			starts.map((runs) => search.layingOf(runs)).filter((l) => l !== undefined),
			(p) => {
				const evaluated = this.evaluated + p.evaluated - before;
				const best = history[history.length - 1][1];
				if (p.best.cost < best) history.push([evaluated, p.best.cost]);
				const leads = p.best.cost <= best ? { cost: p.best.cost, values: p.best.values, runs: search.runsOf(p.order) } : {};
				this.tell({ share: from + (to - from) * p.share, evaluated, ...leads });
				this.unlessStopped();
			}
		);
		this.evaluated += search.evaluated - before;
		this.stopped ||= found.stopped;
		const { path } = found;
		const onTheWay = [...new Set(waypoints.map((share) => Math.round(share * (path.length - 1))))].filter((i) => i > 0 && i < path.length - 1);
		return [...found.finalists, ...onTheWay.map((i) => path[i])].map((order, i) => ({
			id: i ? `search-${i + 1}` : 'search',
			name: 'Found by the search',
			kind: 'search' as const,
			runs: search.runsOf(order),
			lane
		}));
	}

	private weighAll(list: readonly Candidate[], from: number, to: number) {
		list.forEach((c, i) => {
			// stopped: the plan and the best that was found are still compared, the schools and lesser finds no more
			if (this.stop()) this.stopped = true;
			const isOwed = c.kind === 'now' || c.id === 'search';
			if (this.stopped && !isOwed) return;
			this.tell({ phase: `${this.byFinal ? 'Final shape' : 'Quick method'}: ${c.name}`, share: from + ((to - from) * i) / list.length });
			let weighed = stoppable(() => this.weigh(c));
			if (!weighed) {
				this.stopped = true;
				if (!isOwed) return;
				weighed = this.weigh(c);
			}
			this.enter({ ...weighed, lane: c.lane });
		});
	}

	private weigh(c: Candidate) {
		// once stopped, what is weighed still is finished
		const finalOf = (_: Candidate, quick: QuickForecast) =>
			!this.byFinal ? undefined : c.kind === 'now' ? this.finalNow : finalValues(quick, this.factors, this.stopped ? undefined : this.unlessStopped);
		return rowFor(this.plan, c, finalOf, this.own.search, this.factors, this.cache, this.goals);
	}

	/** A row into the table, its differences laid about those of the final shapes. */
	private enter(row: WeighedRow) {
		if (row.kind === 'now') this.nowValues = row.cells.map((x) => x.value);
		row.cells.forEach((x, k) => {
			const moved = x.value - this.nowValues[k];
			x.difference = { predicted: moved, low: x.difference.low + moved, high: x.difference.high + moved };
		});
		this.rows.push(row);
		this.rows.sort((p, q) => Number(q.isFound) - Number(p.isFound) || p.cost - q.cost);
	}
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
