/**
 * A whole plan proposed: settings, root, hold-downs, presets, tacks, order, cooling and a hold point, each decided by the advisor that the
 * planner has for it, on the plan as decided so far; what each is worth with the rest as it is; three sets of them between quickest and
 * truest; and each set forecast by the final shape before it is offered. What comes out worse than the plan as it stands is not offered.
 */
import type { PlanDocument } from '../document/schema';
import { priorFactors, type ShopFactors } from '../factors/factors';
import { unitOf } from '../features';
import { ForecastCache } from '../forecast/analysis';
import { comparePlans } from '../forecast/compare';
import { finalForecast } from '../forecast/finalForecast';
import { forecast, type Band } from '../forecast/forecast';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { Refusal } from '../refusal/refusal';
import { exceedance, type SearchGoals } from '../search/cost';
import { decided, type Decision } from './decision';
import { ProposalDesk, type Stock } from './desk';
import { FLAVOURS, type Flavour, type Weighed } from './flavour';
import { decideCooling } from './steps/cooling';
import { decideHoldPoint } from './steps/holdPoint';
import { decideHolds } from './steps/holds';
import { decideOrder } from './steps/order';
import { decidePresets } from './steps/presets';
import { decideRoot } from './steps/root';
import { decideSettings } from './steps/settings';
import { decideTacks } from './steps/tacks';

/** What one decision is worth, all others taken: with it less without it. */
export interface Gain {
	/** at the bench, a piece */
	minutes: number;
	/** the feature it moves most for its limit, with the paired band of the difference, by the quick method */
	most?: { name: string; unit: 'mm' | '°'; without: number; difference: Band };
}
export type Card = Decision & { gain: Gain };

/** A plan's features by feature, with 90 % bands. */
export interface Column {
	values: Band[];
	minutes: number;
	by: 'final-shape' | 'quick';
	/** why the final shape was not found, where it was not */
	words: string;
}

export interface Proposal {
	features: { id: string; name: string; unit: 'mm' | '°'; upper: number; lower?: number }[];
	cards: Card[];
	now: Column;
	/** ids of the decisions taken, and what they come to */
	flavours: Record<Flavour, { take: string[]; column: Column }>;
	/** what nothing here brings inside its limits, and how near it comes */
	unmet: string[];
	words: string;
	stopped: boolean;
}

export interface SoFar {
	phase: string;
	/** decided so far */
	decided: string[];
}

export interface ProposeOptions {
	goals: SearchGoals;
	factors?: ShopFactors;
	kernel?: KernelFactory;
	stock?: Stock;
	stop?(): boolean;
	tell?(share: number, soFar: SoFar): void;
}

const STEPS: readonly [phase: string, decide: (desk: ProposalDesk) => void, share: number][] = [
	['Settings and root', (d) => (decideSettings(d), decideRoot(d)), 0.15],
	['Bars, clamps and stiffeners', decideHolds, 0.2],
	['Presets', decidePresets, 0.35],
	['Tacks', decideTacks, 0.42],
	['Weld order', decideOrder, 0.48],
	['Waits', decideCooling, 0.56]
];
/** Sets that the final shape does not bear out are thinned so many times at most, all flavours together. */
const THINNED = 4;

/** @throws Refusal where there is nothing to propose for */
export const propose = (plan: PlanDocument, options: ProposeOptions): Proposal => new Proposing(plan, options).result();

class Proposing {
	private readonly factors: ShopFactors;
	private readonly desk: ProposalDesk;
	private readonly then: ForecastCache;
	private readonly columns = new Map<string, Column>();
	private phase = '';
	private share = 0;
	private thinned = 0;

	constructor(
		private readonly plan: PlanDocument,
		private readonly options: ProposeOptions
	) {
		if (!plan.features.length) throw new Refusal('The plan names no feature that must come true: add features on the Job page.');
		if (!plan.joints.some((j) => !j.stock)) throw new Refusal('The piece has no seam to weld: add its joints on the Parts page.');
		this.factors = options.factors ?? priorFactors();
		this.then = new ForecastCache(options.kernel);
		const { goals, kernel, stock = [] } = options;
		this.desk = new ProposalDesk(plan, { goals, factors: this.factors, kernel, stock, stop: () => this.stopped });
	}

	result(): Proposal {
		const { desk } = this;
		this.tell('Final shape of the plan as it stands', 0.02);
		const now = this.columnOf(this.plan, []);
		if (now.by === 'final-shape') desk.levelledBy(now.values.map((v) => v.predicted));
		for (const [phase, decide, share] of STEPS) {
			if (this.stopped) break;
			this.tell(phase, share);
			decide(desk);
		}
		const flavours = this.flavours(now);
		decideHoldPoint(desk, this.unsure(flavours.between.column));
		const point = desk.decisions.filter((d) => d.kind === 'hold-point');
		for (const f of FLAVOURS) flavours[f].take.push(...point.map((d) => d.id));
		// what none of the three takes is nothing to decide
		const taken = new Set(FLAVOURS.flatMap((f) => flavours[f].take));
		const decisions = desk.decisions.filter((d) => taken.has(d.id));
		const cards = this.worth(decisions);
		this.tell('Done', 1);
		const unmet = this.unmet(flavours.truest.column);
		return {
			features: this.plan.features.map((f) => ({
				id: f.id,
				name: f.name,
				unit: unitOf(f),
				upper: f.tolerance.upper,
				...(f.tolerance.lower === undefined ? {} : { lower: f.tolerance.lower })
			})),
			cards,
			now,
			flavours,
			unmet,
			words: wordsOf(cards.length, unmet.length, this.stopped),
			stopped: this.stopped
		};
	}

	private get stopped(): boolean {
		return this.options.stop?.() ?? false;
	}
	private tell(phase = this.phase, share = this.share) {
		[this.phase, this.share] = [phase, share];
		this.options.tell?.(share, { phase, decided: this.desk ? this.desk.decisions.map((d) => d.what) : [] });
	}

	/** By the final shape, once for each set of decisions; by the quick method where the work was stopped. */
	private columnOf(plan: PlanDocument, take: readonly Decision[]): Column {
		const key = take.map((d) => d.id).join();
		const known = this.columns.get(key);
		if (known) return known;
		const quick = forecast(plan, { factors: this.factors, cache: this.desk.cache });
		const final = this.stopped ? undefined : finalForecast(quick, { factors: this.factors }).result;
		const isFound = final?.features.every((f) => !f.notFound) ?? false;
		const said = isFound ? final! : quick.result;
		const column: Column = {
			values: said.features.map(({ predicted, low, high }) => ({ predicted, low, high })),
			minutes: this.desk.weigh(plan).minutes,
			by: isFound ? 'final-shape' : 'quick',
			words: isFound ? '' : this.stopped ? 'Stopped before its final shape was worked out.' : 'Its final shape was not found for the whole pull.'
		};
		this.columns.set(key, column);
		return column;
	}

	private flavours(now: Column): Proposal['flavours'] {
		const of = (flavour: Flavour, i: number) => {
			this.tell(`Weighing: ${flavour}`, 0.6 + 0.08 * i);
			const take = this.borneOut(this.thin(this.desk.decisions, flavour), flavour, now);
			return { take: take.map((d) => d.id), column: this.columnOf(decided(this.plan, take), take) };
		};
		const [quickest, between, truest] = FLAVOURS.map(of);
		return { quickest, between, truest };
	}

	/** Without what costs more time than it is worth: the worst bargain first, each by what is left then. */
	private thin(all: readonly Decision[], flavour: Flavour): Decision[] {
		const without = (set: readonly Decision[], d: Decision) => set.filter((x) => x !== d);
		const priceOf = (set: readonly Decision[]) => this.desk.price(this.desk.weighSet(set), flavour);
		const doubtful = all
			.filter((d) => !d.isNeeded && !d.isSilent && !this.stopped)
			.map((d) => ({ d, price: priceOf(without(all, d)) }))
			.sort((p, q) => p.price - q.price);
		let set = [...all];
		for (const { d } of doubtful) {
			if (this.stopped) break;
			const rest = without(set, d);
			if (priceOf(rest) < priceOf(set) - 1e-9) set = rest;
		}
		return set;
	}

	/** The final shape must bear it out: else what it holds against it goes, and where nothing helps only what is needed stays. */
	private borneOut(set: Decision[], flavour: Flavour, now: Column): Decision[] {
		if (now.by !== 'final-shape') return set;
		const priced = (take: readonly Decision[]) => {
			const c = this.columnOf(decided(this.plan, take), take);
			return c.by === 'final-shape' || this.stopped ? this.desk.price(weighedOf(c), flavour) : Infinity;
		};
		const before = this.desk.price(weighedOf(now), flavour);
		let take = set;
		let price = priced(take);
		while (price > before && this.thinned < THINNED && !this.stopped) {
			this.thinned++;
			this.tell(`The final shape does not bear out all of it: weighing ${flavour} again`);
			// what moves the piece most by the quick method is what the final shape may see otherwise
			const doubtful = take.filter((d) => !d.isNeeded && this.moves(take, d) > 0).sort((p, q) => this.moves(take, q) - this.moves(take, p));
			if (!doubtful.length) break;
			const rest = take.filter((d) => d !== doubtful[0]);
			const then = priced(rest);
			if (then < price) [take, price] = [rest, then];
			else break;
		}
		return price > before && !this.stopped ? take.filter((d) => d.isNeeded || d.isSilent) : take;
	}
	private moves(take: readonly Decision[], d: Decision): number {
		const { features } = this.plan;
		const [a, b] = [this.desk.weighSet(take), this.desk.weighSet(take.filter((x) => x !== d))];
		return features.reduce((s, f, k) => s + (exceedance(f, a.values[k]) - exceedance(f, b.values[k])) ** 2, 0);
	}

	private worth(decisions: readonly Decision[]): Card[] {
		const all = decided(this.plan, decisions);
		return decisions.map((d, i) => {
			this.tell('What each decision is worth', 0.86 + (0.13 * i) / decisions.length);
			if (d.isSilent || this.stopped) return { ...d, gain: { minutes: 0 } };
			const rest = decisions.filter((x) => x !== d);
			const minutes = this.desk.weighSet(decisions).minutes - this.desk.weighSet(rest).minutes;
			const { features } = comparePlans(decided(this.plan, rest), all, this.factors, { now: this.desk.cache, then: this.then }, d.kind === 'order');
			const [most] = features
				.map((x, k) => ({ x, size: Math.abs(exceedance(this.plan.features[k], x.then) - exceedance(this.plan.features[k], x.now)) }))
				.sort((p, q) => q.size - p.size);
			const told = most && most.size > TOLD;
			return {
				...d,
				gain: { minutes, ...(told && { most: { name: most.x.name, unit: most.x.unit, without: most.x.now, difference: most.x.difference } }) }
			};
		});
	}

	private unsure({ values }: Column): string[] {
		return this.plan.features.flatMap((f, k) =>
			Math.max(Math.abs(exceedance(f, values[k].low)), Math.abs(exceedance(f, values[k].high))) > 1 ? [`“${f.name}”`] : []
		);
	}
	private unmet({ values }: Column): string[] {
		return this.plan.features.flatMap((f, k) => {
			const { predicted, low, high } = values[k];
			if (Math.abs(exceedance(f, predicted)) <= 1) return [];
			const unit = unitOf(f);
			const nearest = Math.max(Math.abs(low), Math.abs(high));
			return [
				`“${f.name}” stays at ${predicted.toFixed(2)} ${unit} (${low.toFixed(2)} to ${high.toFixed(2)}), its limit is ${f.tolerance.upper} ${unit}: nothing here brings it inside. A limit of ${nearest.toFixed(1)} ${unit} would hold; or put it right afterwards, or change the joint.`
			];
		});
	}
}

/** Less than this share of a limit is not told of a decision. */
const TOLD = 0.02;
const weighedOf = (c: Column): Weighed => ({ values: c.values.map((v) => v.predicted), minutes: c.minutes });

function wordsOf(cards: number, unmet: number, stopped: boolean): string {
	const found = !cards
		? 'Nothing that was tried makes this plan better by the final shape: it stands as it is.'
		: `${cards === 1 ? 'One decision' : `${cards} decisions`}, each to be taken or left.`;
	const open = unmet ? ` ${unmet === 1 ? 'One feature stays' : `${unmet} features stay`} outside whatever is done here.` : '';
	return `${stopped ? 'Stopped: this is what had been found. ' : ''}${found}${open}`;
}
