/**
 * Search for a better weld order on the condensed piece: every run is tried in every place and both ways, exactly, as long as
 * that helps; then the order is shaken and tried again. Deterministic: the same plan and goals give the same order.
 */
import type { Analysis, Scales } from '../forecast/analysis';
import { uniformFrom } from '../linalg/random';
import type { PlanDocument, Run } from '../document/schema';
import { flipsOf, liesFor, positionsOf, type Up } from '../layout/positions';
import { brokenBy, feasibleOrder, precedenceOf, type Precedence } from './precedence';
import { featureCost, type SearchGoals } from './cost';
import { levelOf, pullWeights, type Fit, type Level, type Seen } from './level';
import { OrderHeat } from './orderHeat';
import { OrderModel } from './orderModel';
import type { Laying, RunColumns, Walk } from './walk';
import { Refusal } from '../refusal/refusal';

export interface Weighed {
	cost: number;
	values: number[];
	/** estimates of the search; the table's come from the schedule */
	totalS: number;
	waitS: number;
	flips: number;
	/** hottest start, °C */
	hottestC: number;
}

export interface SearchProgress {
	share: number;
	evaluated: number;
	best: Weighed;
	order: Laying[];
}

/** Runs moved by each shake. */
const SHAKE = 4;
/** Random exchanges and moves of whole stretches tried after each descent, where open places are few. */
const STRETCHES = 60;
/** On small pieces the search starts again until it has weighed this many orders. */
const ENOUGH = 1500;
/** Open rows from which both are cut down: an order costs more the more there are. */
const FEW_ROWS = 100;
/** Starts again at the most, whatever is cheap. */
const MOST_ROUNDS = 25;
/** Starts that are each followed down to their own best: the final shape chooses among those. */
const FOLLOWED = 3;
/** Of the orders one step away, this many are weighed. */
const NEIGHBOURS = 60;
/** A gain below this share of the cost is rounding. */
const LEAST_GAIN = 1e-9;

export class Stopped extends Error {}

export class OrderSearch {
	readonly model: OrderModel;
	readonly heat: OrderHeat;
	readonly rules: readonly Precedence[];
	readonly positions: ReadonlyMap<string, readonly Up[]>;
	readonly plan: PlanDocument;
	/** orders weighed so far */
	evaluated = 0;
	private readonly weights: Float64Array[];
	/** by feature, from what is seen to what the final shape would make of it */
	private level?: Level[];
	/** used again for every run tried: with it before the others, and without */
	private walks?: readonly [Walk, Walk];
	private readonly index: Map<string, number>;
	private readonly mustFollow: number[][];
	private readonly mustPrecede: number[][];

	/** @param warm the analysis with the heat of earlier runs in the forces @throws RangeError where the order is tied to something */
	constructor(
		private readonly a: Analysis,
		scales: Scales,
		private readonly goals: SearchGoals,
		warm?: Analysis,
		progress: (share: number) => void = () => {}
	) {
		this.plan = a.plan;
		this.rules = precedenceOf(a.plan, a.mesh);
		this.positions = positionsOf(a.mesh);
		this.model = new OrderModel(a, scales);
		progress(0.5);
		this.heat = new OrderHeat(a, warm, (s) => progress(0.5 + 0.5 * s));
		this.weights = pullWeights(a.plan, a.responses);
		this.index = new Map(a.plan.runs.map((r, i) => [r.id, i]));
		this.mustFollow = a.plan.runs.map(() => []);
		this.mustPrecede = a.plan.runs.map(() => []);
		for (const r of this.rules) {
			this.mustFollow[this.index.get(r.after)!].push(this.index.get(r.before)!);
			this.mustPrecede[this.index.get(r.before)!].push(this.index.get(r.after)!);
		}
	}

	/**
	 * From here on features are weighed as if this order came out at these values: the final shape's, where waves and dishing
	 * make them other than the linear ones, so that each feature counts by how near its limit it really is.
	 * @param fits by feature: see level.ts
	 */
	levelTo(order: readonly Laying[], final: readonly number[], fits: readonly (Fit | undefined)[] = []) {
		const seen = this.seen(order, this.model.columns(order), this.timed(order).forces);
		this.level = this.plan.features.map((f, k) => levelOf(f, seen[k], final[k], fits[k]));
	}

	/** What is known of each feature without the final shape. @param forces factor on each run's pull, by place in the order */
	private seen(order: readonly Laying[], columns: readonly RunColumns[], forces: ArrayLike<number>): Seen[] {
		const y = this.model.outputs(columns, forces);
		return this.plan.features.map((f, k) => {
			let pull = 0;
			for (let i = 0; i < order.length; i++) pull += this.weights[k][order[i].run] * forces[i];
			return { linear: this.a.valueOf(f, y), pull };
		});
	}

	/** The plan's own order. */
	get given(): Laying[] {
		return this.plan.runs.map((_, run) => ({ run, reversed: false }));
	}

	/** An order of the same runs from another list of them, or undefined where that is cut otherwise. */
	layingOf(runs: readonly Run[]): Laying[] | undefined {
		const left = new Set(this.plan.runs.keys());
		const out: Laying[] = [];
		for (const r of runs) {
			const same = [...left].find((i) => {
				const p = this.plan.runs[i];
				const [lo, hi] = [Math.min(p.fromMm, p.toMm), Math.max(p.fromMm, p.toMm)];
				return (
					p.joint === r.joint &&
					p.pass === r.pass &&
					Math.abs(lo - Math.min(r.fromMm, r.toMm)) < 0.5 &&
					Math.abs(hi - Math.max(r.fromMm, r.toMm)) < 0.5
				);
			});
			if (same === undefined) return undefined;
			left.delete(same);
			const p = this.plan.runs[same];
			out.push({ run: same, reversed: p.toMm > p.fromMm !== r.toMm > r.fromMm });
		}
		return left.size ? undefined : out;
	}

	/** Runs of a plan for an order. */
	runsOf(order: readonly Laying[]): Run[] {
		return order.map(({ run, reversed }) => {
			const r = this.plan.runs[run];
			return reversed ? { ...r, fromMm: r.toMm, toMm: r.fromMm } : r;
		});
	}

	/** Times, flips and the factors on the runs' forces of an order. */
	timed(order: readonly Laying[]) {
		const list = order.map((l) => l.run);
		const lies = liesFor(
			list.map((i) => this.plan.runs[i]),
			this.positions
		);
		const t = this.heat.times(
			list,
			lies.map((u, i) => i > 0 && u !== lies[i - 1])
		);
		return { t, flips: flipsOf(lies), forces: this.heat.forces(list, t) };
	}

	/** @param withLimits false: what an order comes to whatever its flips, for the plan as it stands */
	weigh(order: readonly Laying[], columns: readonly RunColumns[] = this.model.columns(order), withLimits = true): Weighed {
		this.evaluated++;
		const { t, flips, forces } = this.timed(order);
		const values = this.seen(order, columns, forces).map((x, k) => (this.level ? this.level[k](x) : x.linear));
		let hottest = 0;
		for (const v of t.hottest) hottest = Math.max(hottest, v);
		const { goals, plan } = this;
		const over = withLimits && goals.maxFlips !== undefined && flips > goals.maxFlips;
		return {
			cost: over
				? Infinity
				: featureCost(plan.features, values, goals) +
					goals.time * (t.totalS / 3600) +
					goals.heat * (hottest / (plan.interpassLimitC - plan.ambientC)) ** 2 +
					goals.flip * flips,
			values,
			totalS: t.totalS,
			waitS: t.waitS,
			flips,
			hottestC: plan.ambientC + hottest
		};
	}

	/** Keeps all precedence, locks and flips? */
	isAllowed(order: readonly Laying[]): boolean {
		const runs = order.map((l) => this.plan.runs[l.run]);
		if (this.plan.runs.some((r, i) => r.locked && (order[i].run !== i || order[i].reversed))) return false;
		if (!this.goals.mayReverse && order.some((l) => l.reversed)) return false;
		if (brokenBy(runs, this.rules)) return false;
		return this.goals.maxFlips === undefined || flipsOf(liesFor(runs, this.positions)) <= this.goals.maxFlips;
	}

	/**
	 * @param starts other orders to begin from, besides the plan's own
	 * @param tell called often; may throw Stopped, and the best order so far is the answer
	 * @returns the best order, the ends of each descent, and the way there: each order that was the best when it was found
	 * @throws RangeError where no order keeps all limits
	 */
	run(
		starts: readonly (readonly Laying[])[],
		tell: (p: SearchProgress) => void = () => {}
	): { order: Laying[]; weighed: Weighed; finalists: Laying[][]; path: Laying[][]; stopped: boolean } {
		const list = [this.repaired(this.given), ...starts.map((s) => this.repaired(s))].map((order) => ({ order, w: this.weigh(order) }));
		list.sort((p, q) => p.w.cost - q.w.cost);
		let best = list[0];
		if (!Number.isFinite(best.w.cost)) best = this.leastFlips();
		const path = [best.order];
		const random = uniformFrom(20_261_125);
		// small pieces are cheap: they are shaken until enough has been weighed
		let rounds = 1 + this.goals.restarts;
		let round = 0;
		let stopped = false;
		const finalists: Laying[][] = [];
		const found = (order: Laying[], w: Weighed) => {
			if (w.cost < best.w.cost * (1 - LEAST_GAIN)) {
				best = { order, w };
				path.push(order);
			}
		};
		const say = (within: number) =>
			tell({ share: Math.min(1, (round + within) / rounds), evaluated: this.evaluated, best: best.w, order: best.order });
		try {
			say(0);
			const follow = list.filter((x, i) => Number.isFinite(x.w.cost) && list.findIndex((y) => isSame(y.order, x.order)) === i).slice(0, FOLLOWED);
			for (const start of follow.length ? follow : [best]) {
				const end = this.descend(start, random, (order, w, within) => {
					found(order, w);
					say(within / FOLLOWED);
				});
				found(end.order, end.w);
				if (!finalists.some((f) => isSame(f, end.order))) finalists.push(end.order);
			}
			let current = this.shaken(best.order, random);
			for (round = 1; round < rounds; round++) {
				current = this.descend(current, random, (order, w, within) => {
					found(order, w);
					say(within);
				});
				found(current.order, current.w);
				if (round === rounds - 1 && this.goals.restarts > 0 && this.evaluated < ENOUGH * this.ease && rounds < MOST_ROUNDS) rounds++;
				current = this.shaken(best.order, random);
			}
		} catch (e) {
			if (!(e instanceof Stopped)) throw e;
			stopped = true;
		}
		if (!finalists.some((f) => isSame(f, best.order))) finalists.unshift(best.order);
		return { order: best.order, weighed: best.w, finalists, path, stopped };
	}

	/** Orders one step from this one, two neighbours exchanged or a run turned about, as they are weighed: the best first. */
	neighbours(order: readonly Laying[], most: number): Laying[][] {
		const out: Laying[][] = [];
		order.forEach((l, i) => {
			if (i + 1 < order.length) out.push([...order.slice(0, i), order[i + 1], l, ...order.slice(i + 2)]);
			if (this.model.hasDirection(l.run)) out.push([...order.slice(0, i), { ...l, reversed: !l.reversed }, ...order.slice(i + 1)]);
		});
		const allowed = out.filter((o) => this.isAllowed(o));
		// evenly along the order where there are too many to weigh
		const every = Math.ceil(allowed.length / NEIGHBOURS);
		return allowed
			.filter((_, i) => i % every === 0)
			.map((o) => ({ o, cost: this.weigh(o).cost }))
			.sort((p, q) => p.cost - q.cost)
			.slice(0, most)
			.map(({ o }) => o);
	}

	/** A start that breaks a rule is put right, keeping what it can. */
	private repaired(order: readonly Laying[]): Laying[] {
		if (this.isAllowed(order)) return [...order];
		const at = new Map(order.map((l) => [l.run, l.reversed]));
		// locked runs go to their places first
		const rest = order.filter((l) => !this.plan.runs[l.run].locked);
		const runs = this.plan.runs.map((r) => (r.locked ? r : this.plan.runs[rest.shift()!.run]));
		return feasibleOrder(runs, this.rules).map((r) => {
			const run = this.index.get(r.id)!;
			return { run, reversed: !r.locked && this.goals.mayReverse && (at.get(run) ?? false) };
		});
	}

	/** Where no start keeps the flips: runs of one position together. */
	private leastFlips(): { order: Laying[]; w: Weighed } {
		const most = this.goals.maxFlips!;
		const left = new Set(this.plan.runs.keys());
		const order: Laying[] = [];
		const may = (i: number, up: Up) => (this.positions.get(this.plan.runs[i].joint) ?? []).includes(up);
		const ready = (i: number) => this.mustFollow[i].every((p) => !left.has(p));
		while (left.size) {
			// the position in which most of what is ready can be laid before the piece must be turned
			let taken: number[] = [];
			for (const up of new Set([...this.positions.values()].flat())) {
				const now = new Set(left);
				const got: number[] = [];
				for (let more = true; more;) {
					more = false;
					for (const i of now) {
						if (!may(i, up) || this.mustFollow[i].some((p) => now.has(p))) continue;
						got.push(i);
						now.delete(i);
						more = true;
					}
				}
				if (got.length > taken.length) taken = got;
			}
			if (!taken.length) taken = [...left].filter(ready).slice(0, 1);
			for (const i of taken) left.delete(i);
			order.push(...taken.map((run) => ({ run, reversed: false })));
		}
		const flips = flipsOf(
			liesFor(
				order.map((l) => this.plan.runs[l.run]),
				this.positions
			)
		);
		if (!this.isAllowed(order))
			throw new Refusal(
				flips > most
					? `No order was found with at most ${most} flips: with the assembly order kept, this piece was not laid with fewer than ${flips}. Allow ${flips} flips.`
					: 'No order keeps both the locked runs and the limit on flips. Unlock runs, or allow more flips.'
			);
		return { order, w: this.weigh(order) };
	}

	/** Tries every run in every place, both ways, until nothing helps. */
	private descend(
		from: { order: Laying[]; w: Weighed },
		random: () => number,
		tell: (order: Laying[], w: Weighed, within: number) => void
	): { order: Laying[]; w: Weighed } {
		let current = from;
		const n = current.order.length;
		for (let pass = 0, improved = true; improved && pass < 12; pass++) {
			improved = false;
			const turn = shuffled(n, random);
			for (let k = 0; k < n; k++) {
				const better = this.bestPlace(current, turn[k]);
				if (better) {
					current = better;
					improved = true;
				}
				tell(current.order, current.w, (pass + k / n) / (pass + 2));
			}
			if (improved) continue;
			// where no single run can be put better, a stretch of them or an exchange may
			const stretch = this.betterStretch(current, random, (c) => tell(c.order, c.w, 0.9));
			if (stretch) {
				current = stretch;
				improved = true;
			}
		}
		return current;
	}

	/** Best other place and direction for one run; undefined where it lies best. */
	private bestPlace(current: { order: Laying[]; w: Weighed }, run: number): { order: Laying[]; w: Weighed } | undefined {
		if (this.plan.runs[run].locked) return undefined;
		const { order } = current;
		const p = order.findIndex((l) => l.run === run);
		const rest = order.filter((l) => l.run !== run);
		// between what must come before and after, and between the locked runs on either side
		let lo = 0;
		let hi = rest.length;
		rest.forEach((l, i) => {
			if (this.mustFollow[run].includes(l.run)) lo = Math.max(lo, i + 1);
			if (this.mustPrecede[run].includes(l.run)) hi = Math.min(hi, i);
			if (this.plan.runs[l.run].locked) {
				if (i < p) lo = Math.max(lo, i + 1);
				else hi = Math.min(hi, i);
			}
		});
		if (hi < lo) return undefined;
		const ways = this.goals.mayReverse && this.model.hasDirection(run) ? [false, true] : [order[p].reversed];
		// columns of the others with this run before them, and without
		const [withRun, walk] = (this.walks ??= [this.model.walk(), this.model.walk()]);
		withRun.back(0);
		walk.back(0);
		withRun.append({ run, reversed: false });
		const after = rest.map((l) => withRun.append(l));
		const before: RunColumns[] = [];
		let best: { order: Laying[]; w: Weighed } | undefined;
		for (let q = 0; q <= hi; q++) {
			if (q >= lo)
				for (const reversed of ways) {
					if (q === p && reversed === order[p].reversed) continue;
					const mark = walk.mark;
					const own = walk.append({ run, reversed });
					walk.back(mark);
					const candidate = [...rest.slice(0, q), { run, reversed }, ...rest.slice(q)];
					const w = this.weigh(candidate, [...before, own, ...after.slice(q)]);
					if (w.cost < (best?.w ?? current.w).cost * (1 - LEAST_GAIN)) best = { order: candidate, w };
				}
			if (q < hi) before.push(walk.append(rest[q]));
		}
		return best;
	}

	/** 1 where orders are cheap to weigh, less where many places are open */
	private get ease() {
		return Math.min(1, (FEW_ROWS / Math.max(1, this.model.openRows)) ** 2);
	}

	/** The first exchange, turned-about or moved stretch among random ones that is better. */
	private betterStretch(
		current: { order: Laying[]; w: Weighed },
		random: () => number,
		tell: (c: { order: Laying[]; w: Weighed }) => void
	): { order: Laying[]; w: Weighed } | undefined {
		const n = current.order.length;
		for (let k = 0; k < STRETCHES * this.ease; k++) {
			const [i, j] = [Math.floor(random() * n), Math.floor(random() * n)];
			const kind = Math.floor(random() * 3);
			if (i === j) continue;
			const next = [...current.order];
			const [lo, hi] = [Math.min(i, j), Math.max(i, j)];
			if (kind === 0) [next[i], next[j]] = [next[j], next[i]];
			else if (kind === 1) next.splice(lo, hi - lo + 1, ...next.slice(lo, hi + 1).reverse());
			else {
				const size = 2 + Math.floor(random() * Math.min(6, n - 1));
				const moving = next.splice(i, size);
				next.splice(Math.min(j, next.length), 0, ...moving);
			}
			if (!this.isAllowed(next)) continue;
			const w = this.weigh(next);
			tell(current);
			if (w.cost < current.w.cost * (1 - LEAST_GAIN)) return { order: next, w };
		}
		return undefined;
	}

	/** Some runs put in other places at random, within the rules. */
	private shaken(order: readonly Laying[], random: () => number): { order: Laying[]; w: Weighed } {
		let now = [...order];
		for (let k = 0, tries = 0; k < SHAKE && tries < 60; tries++) {
			const next = [...now];
			const [i, j] = [Math.floor(random() * next.length), Math.floor(random() * next.length)];
			if (i === j) continue;
			if (random() < 0.5) next.splice(j, 0, ...next.splice(i, 1));
			else [next[i], next[j]] = [next[j], next[i]];
			if (!this.isAllowed(next)) continue;
			now = next;
			k++;
		}
		return { order: now, w: this.weigh(now) };
	}
}

const isSame = (p: readonly Laying[], q: readonly Laying[]) => p.every((l, i) => l.run === q[i].run && l.reversed === q[i].reversed);

function shuffled(n: number, random: () => number): number[] {
	const out = Array.from({ length: n }, (_, i) => i);
	for (let i = n - 1; i > 0; i--) {
		const j = Math.floor(random() * (i + 1));
		[out[i], out[j]] = [out[j], out[i]];
	}
	return out;
}
