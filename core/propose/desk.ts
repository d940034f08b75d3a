/** What every step of a proposal works at: the plan as decided so far, forecast by the quick method and brought to the level of the final shape. */
import { DEFAULT_QUOTE, FLIP_S, HOLD_S, TACK_S } from '../estimate/estimate';
import type { PlanDocument } from '../document/schema';
import type { ShopFactors } from '../factors/factors';
import { analyse, ForecastCache, scalesOf, type Analysis } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast } from '../forecast/forecast';
import { flipsOf, liesFor, positionsOf } from '../layout/positions';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { RegisterItem } from '../registers/registers';
import type { RegisterKind } from '../document/words';
import type { SearchGoals } from '../search/cost';
import { decided, type Decision } from './decision';
import { priceOf, type Flavour, type Weighed } from './flavour';

/** What the shop has, as far as a plan can use it. */
export type Stock = readonly { kind: RegisterKind; item: RegisterItem }[];

export interface DeskOptions {
	goals: SearchGoals;
	factors: ShopFactors;
	kernel?: KernelFactory;
	stock: Stock;
	stop(): boolean;
}

export class ProposalDesk {
	readonly cache: ForecastCache;
	readonly decisions: Decision[] = [];
	/** by feature, mm or °: what the final shape of the plan as it stands reads beyond the quick method */
	private level: number[] = [];
	private readonly known = new Map<string, Weighed>();

	constructor(
		readonly given: PlanDocument,
		readonly options: DeskOptions
	) {
		this.cache = new ForecastCache(options.kernel);
	}

	/** The plan with all that is decided so far. */
	get plan(): PlanDocument {
		return decided(this.given, this.decisions);
	}
	get stopped(): boolean {
		return this.options.stop();
	}
	/** @param final by feature, of the plan as it stands */
	levelledBy(final: readonly number[]) {
		const quick = this.quick(this.given);
		this.level = final.map((v, k) => v - quick[k]);
	}
	add(decision: Decision) {
		this.decisions.push(decision);
	}

	/** Features and minutes of a plan. @param key under which it is remembered; none where it is asked once */
	weigh(plan: PlanDocument, key?: string): Weighed {
		const before = key === undefined ? undefined : this.known.get(key);
		if (before) return before;
		// the heat that earlier runs leave is in the forces, and the waits in the time
		const a = analyse(plan, this.cache, { warm: true });
		const weighed = { values: this.valuesOf(a), minutes: minutesOf(plan, a) };
		if (key !== undefined) this.known.set(key, weighed);
		return weighed;
	}
	/** By the final shape; nothing where it is not found. Takes seconds. */
	weighFinal(plan: PlanDocument): Weighed | undefined {
		const { factors } = this.options;
		const { values, words } = finalValues(forecast(plan, { factors, cache: this.cache }), factors);
		return words ? undefined : { values, minutes: this.weigh(plan).minutes };
	}
	/** With some of the decisions. */
	weighSet(decisions: readonly Decision[]): Weighed {
		return this.weigh(decided(this.given, decisions), [...decisions.map((d) => d.id)].sort().join());
	}
	price(weighed: Weighed, flavour: Flavour = 'between'): number {
		return priceOf(this.given.features, weighed, this.options.goals, flavour);
	}
	/** Quick values of an analysis, at the final shape's level. */
	valuesOf(a: Analysis): number[] {
		const scales = scalesOf(this.options.factors.mean);
		return this.given.features.map((f, k) => formOf(f.kind, a.featureAt(f, 'unclamped', scales) + (this.level[k] ?? 0)));
	}
	private quick(plan: PlanDocument): number[] {
		const a = analyse(plan, this.cache, { warm: true });
		const scales = scalesOf(this.options.factors.mean);
		return plan.features.map((f) => a.featureAt(f, 'unclamped', scales));
	}
}

/** A form error is never below nothing. */
const formOf = (kind: PlanDocument['features'][number]['kind'], value: number) =>
	kind === 'flatness' || kind === 'straightness' || kind === 'twist' || kind === 'squareness' ? Math.max(0, value) : value;

/** At the bench, for a piece: fit-up, tacks, arc, waits, flips, and what is put on and taken off. */
export function minutesOf(plan: PlanDocument, { heat, mesh }: Pick<Analysis, 'heat' | 'mesh'>): number {
	const fitUp = (plan.quote ?? DEFAULT_QUOTE).fitUpMinPerPart * plan.parts.length;
	const flips = flipsOf(liesFor(plan.runs, positionsOf(mesh)));
	return fitUp + (heat!.totalS + TACK_S * plan.tacks.length + FLIP_S * flips + HOLD_S * plan.holdDowns.length) / 60;
}
