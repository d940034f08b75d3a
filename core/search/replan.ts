/**
 * A piece that is half welded, planned on from where it stands: where it will end as it goes, what order of the runs that are left ends
 * better, and what else would help. What lies is what it is: it keeps its place, direction and settings in every answer.
 */
import type { Bar, PlanDocument, Run } from '../document/schema';
import type { ReadMoment } from '../document/words';
import { priorFactors, type ShopFactors } from '../factors/factors';
import { unitOf } from '../features';
import { ForecastCache, scalesOf } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast, type QuickForecast } from '../forecast/forecast';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { Refusal } from '../refusal/refusal';
import { asRun } from '../weldout/asRun';
import type { Standing } from '../weldout/logbook';
import { DEFAULT_GOALS, featureCost, type SearchGoals } from './cost';
import { hingesOf } from './hinges';
import { orderIsTied } from './orderModel';
import { overAngles, withAngles } from './presets';
import { OrderSearch, Stopped } from './search';

/** A reading that stands. */
export interface ReadSoFar {
	feature: string;
	moment: ReadMoment;
	value: number;
	at: number;
}

/** Where a feature would end. */
export interface End {
	predicted: number;
	low: number;
	high: number;
}

/** A way on from here. */
export interface WayOn {
	id: string;
	label: string;
	/** by feature, as the quick method has it, with what was read so far carried to the end */
	ends: End[];
	/** by feature by the final shape, where it was asked; its words say why it found none */
	final?: { values: number[]; words: string };
	/** drop of the weighted features against going on as planned; more is better */
	gain: number;
	/** the plan for this piece from here on, where this way is another one than planned */
	plan?: PlanDocument;
}

export interface Replan {
	features: { id: string; name: string; unit: 'mm' | '°'; upper: number; lower?: number; /** read minus forecast as tacked */ offset?: number }[];
	/** runs that lie, in whole or in part */
	laid: number;
	/** as planned, first; then what was found, best first */
	ways: WayOn[];
	words: string;
	/** only part of it was looked through */
	stopped: boolean;
}

export interface ReplanOptions {
	goals: SearchGoals;
	factors?: ShopFactors;
	kernel?: KernelFactory;
	tell?: (phase: string, share: number, soFar?: Replan) => void;
	stop?: () => boolean;
}

/** A way must lower the weighted features by this share to be offered. */
const LEAST = 0.02;
/** Copper, tight, wide enough for the hot band of thin sheet: a starting point. */
const BAR = { material: 'copper', widthMm: 40, thicknessMm: 10, contact: 'tight' } as const;
/** Long enough for any piece of this kind to go cold, s: the schedule waits no longer than it takes. */
const GO_COLD_S = 1800;

/**
 * The issued plan with the runs that are touched first, in the order they were begun, then the others as given: what the bench goes on
 * by. Ids stay, so that every line of the log still means what it meant.
 */
export function planFromHere(issued: PlanDocument, at: Standing, rest: readonly Run[]): PlanDocument {
	const begun = begunRuns(at);
	const touched = begun.map((id) => issued.runs.find((r) => r.id === id)!);
	const left = rest.filter((r) => !begun.includes(r.id));
	return { ...issued, runs: [...touched, ...left] };
}

/** Ids of runs that lie at least in part, in the order they were begun. */
const begunRuns = (at: Standing): string[] =>
	at.steps
		.flatMap(({ step, laid }) => (step.kind === 'run' && laid.length ? [{ run: step.run, at: laid[0].at }] : []))
		.sort((p, q) => p.at - q.at)
		.map((x) => x.run);

/** Seams at which nothing is done: not set over, not tacked, not run. */
const untouched = (at: Standing): Set<string> => {
	const out = new Set<string>();
	const touched = new Set(at.lines.flatMap((l) => (l.kind === 'happened' && l.data?.what === 'tack-set' && l.data.joint ? [l.data.joint] : [])));
	for (const { step, state, laid } of at.steps) {
		if (step.kind !== 'preset' && step.kind !== 'tack' && step.kind !== 'run') continue;
		if (state === 'open' && !laid.length) out.add(step.joint);
		else touched.add(step.joint);
	}
	return new Set([...out].filter((id) => !touched.has(id)));
};

/** @throws Refusal where nothing is left to be planned, or nothing is begun */
export function replan(issued: PlanDocument, at: Standing, readings: readonly ReadSoFar[], options: ReplanOptions): Replan {
	return new Replanning(issued, at, readings, options).result();
}

/**
 * The first figures alone: where it ends as planned, without the heat that lies in it. Somebody waits with a torch.
 * @param cache of the caller, who may be asked of the same piece again
 * @throws Refusal as `replan`
 */
export function whereItEnds(
	issued: PlanDocument,
	at: Standing,
	readings: readonly ReadSoFar[],
	options: { factors: ShopFactors; cache: ForecastCache }
): Replan {
	return new Replanning(issued, at, readings, { goals: DEFAULT_GOALS, ...options }).first();
}

/** As a page shows it: the plans themselves are large, and stay where they were worked out. */
export const withoutPlans = (r: Replan): Replan => ({ ...r, ways: r.ways.map(({ plan: _, ...way }) => way) });

class Replanning {
	private readonly cache: ForecastCache;
	private readonly factors: ShopFactors;
	/** as run, with what is begun locked in front */
	private readonly plan: PlanDocument;
	/** untouched runs */
	private readonly open: Run[];
	private readonly offsets: (number | undefined)[];
	private readonly ways: WayOn[] = [];
	/** without and with what earlier runs have left in heat */
	private readonly cold: QuickForecast;
	private now!: QuickForecast;
	private before = 0;
	private stopped = false;

	constructor(
		private readonly issued: PlanDocument,
		private readonly at: Standing,
		readings: readonly ReadSoFar[],
		private readonly options: ReplanOptions & { cache?: ForecastCache }
	) {
		const begun = begunRuns(at);
		if (!issued.features.length) throw new Refusal('The plan names no feature that must come true: there is nothing to plan on for.');
		if (at.steps.every((s) => s.step.kind !== 'run' || s.state !== 'open'))
			throw new Refusal('No run is left to be laid: what there is to do now is to measure it.');
		this.factors = options.factors ?? priorFactors();
		this.cache = options.cache ?? new ForecastCache(options.kernel);
		const run = asRun(issued, at).plan;
		const isBegun = (r: Run) => begun.some((id) => r.id === id || r.id.startsWith(`${id}.`));
		// what is left of a run that lies in part comes next, before anything else
		this.plan = { ...run, runs: [...run.runs.filter(isBegun).map((r) => ({ ...r, locked: true })), ...run.runs.filter((r) => !isBegun(r))] };
		this.open = this.plan.runs.filter((r) => !isBegun(r));
		this.tell('Where it will end', 0);
		this.cold = forecast(this.plan, { factors: this.factors, cache: this.cache });
		this.offsets = issued.features.map((f, k) => this.offsetOf(f.id, k, readings));
		// somebody waits with a torch: the first figures do not wait for the heat, which takes several times as long
		this.ways.push({ id: 'as-planned', label: 'As planned', ends: this.endsOf(this.cold), gain: 0 });
	}

	first(): Replan {
		return { ...this.soFar(), words: 'Without the heat that lies in it: that follows.' };
	}
	result(): Replan {
		this.warm();
		this.tryOrders();
		this.tryPresets();
		this.tryOthers();
		this.askFinal();
		this.tell('Done', 1);
		return this.soFar();
	}

	private warm() {
		this.tell('Where it will end, with the heat of what lies', 0.05);
		this.now = this.cold.warmed();
		const ends = this.endsOf(this.now);
		this.before = this.costOf(ends);
		this.ways[0] = { ...this.ways[0], ends };
		this.tell('Where it will end', 0.1);
	}
	private tell(phase: string, share: number) {
		this.options.tell?.(phase, share, this.ways.length ? this.soFar() : undefined);
		if (this.options.stop?.()) this.stopped = true;
	}
	private forecastOf(plan: PlanDocument): QuickForecast {
		// with what earlier runs have left in heat
		return forecast(plan, { factors: this.factors, cache: this.cache }).warmed();
	}
	/** What was read as tacked and what the forecast has there: the difference is carried to the end. */
	private offsetOf(feature: string, k: number, readings: readonly ReadSoFar[]): number | undefined {
		const own = readings.filter((r) => r.feature === feature && r.moment === 'as-tacked').sort((p, q) => p.at - q.at);
		const last = own[own.length - 1];
		return last && last.value - this.cold.result.features[k].moments['as-tacked'].predicted;
	}
	private endsOf(q: QuickForecast): End[] {
		return q.result.features.map(({ predicted, low, high }, k) => {
			const d = this.offsets[k] ?? 0;
			return { predicted: predicted + d, low: low + d, high: high + d };
		});
	}
	private costOf = (ends: readonly End[]) =>
		featureCost(
			this.issued.features,
			ends.map((e) => e.predicted),
			this.options.goals
		);
	private add(id: string, label: string, tried: PlanDocument, plan: PlanDocument) {
		const ends = this.endsOf(this.forecastOf(tried));
		const gain = this.before - this.costOf(ends);
		if (gain > LEAST * this.before) this.ways.push({ id, label, ends, gain, plan });
	}

	/** The runs that are left, in the best order found within the search's limits. */
	private tryOrders() {
		if (this.open.length < 2 || this.stopped || orderIsTied(this.plan)) return;
		this.tell('Another order of what is left', 0.15);
		const search = new OrderSearch(this.cold.analysis, scalesOf(this.factors.mean), this.options.goals, this.now.analysis);
		const found = search.run([], (p) => {
			if (this.options.stop?.()) {
				this.stopped = true;
				throw new Stopped();
			}
			this.options.tell?.('Another order of what is left', 0.15 + 0.4 * p.share, this.soFar());
		});
		const runs = search.runsOf(found.order);
		const rest = runs.filter((r) => this.open.some((o) => o.id === r.id));
		if (rest.every((r, i) => r.id === this.open[i].id && r.fromMm === this.open[i].fromMm)) return;
		this.add('order', 'The runs that are left in another order', { ...this.plan, runs }, planFromHere(this.issued, this.at, rest));
	}

	/** A bar behind what is still open on a seam, less current on what is left, letting it go cold before each. */
	private tryOthers() {
		const ids = new Set(this.open.map((r) => r.id));
		const joints = [...new Set(this.open.map((r) => r.joint))];
		const tries: [string, string, (plan: PlanDocument) => PlanDocument][] = [
			['less-current', 'Five sixths of the current on what is left', (p) => withLessCurrent(p, ids)],
			['go-cold', 'Let it go cold before each run that is left', (p) => withWaits(p, ids)],
			...joints.flatMap((joint): [string, string, (plan: PlanDocument) => PlanDocument][] => {
				const name = this.issued.joints.find((j) => j.id === joint)!.name;
				const hasBar = this.issued.holdDowns.some((h) => h.kind === 'bar' && h.joint === joint);
				return hasBar ? [] : [[`bar:${joint}`, `A copper bar behind what is left of “${name}”`, (p) => withBar(p, joint, name, ids)]];
			})
		];
		tries.forEach(([id, label, change], i) => {
			if (this.stopped) return;
			this.tell(label, 0.6 + (0.2 * i) / tries.length);
			this.add(id, label, change(this.plan), change(planFromHere(this.issued, this.at, this.open)));
		});
		const [asPlanned, ...others] = this.ways;
		this.ways.splice(0, this.ways.length, asPlanned, ...others.sort((p, q) => q.gain - p.gain));
	}

	/** Over-angles of joints at which nothing is done yet, and which can still turn by themselves. */
	private tryPresets() {
		const open = untouched(this.at);
		const joints = hingesOf(this.issued)
			.filter((hinge) => hinge.every((id) => open.has(id)))
			.map(([first]) => first);
		if (!joints.length || this.stopped) return;
		this.tell('Setting over what is not tacked yet', 0.55);
		const deg = overAngles(this.plan, joints, this.options.goals, {
			factors: this.factors,
			cache: this.cache,
			stop: () => this.options.stop?.() ?? false
		});
		const set = this.issued.joints.filter((j) => deg[j.id] !== undefined && deg[j.id] !== j.presetDeg);
		if (!set.length) return;
		const words = set.map((j) => `“${j.name}” ${deg[j.id]}°`).join(', ');
		this.add(
			'presets',
			`Set over before it is tacked: ${words}`,
			withAngles(this.plan, deg),
			withAngles(planFromHere(this.issued, this.at, this.open), deg)
		);
	}

	/** The final shape as planned and of the best way: it knows what waves and dishing make of the linear figures. */
	private askFinal() {
		for (const [i, way] of this.ways.slice(0, 2).entries()) {
			if (this.stopped) return;
			this.tell(`Final shape: ${way.label}`, 0.8 + 0.1 * i);
			const tried = way.id === 'as-planned' ? this.plan : this.asTried(way);
			const final = finalValues(forecast(tried, { factors: this.factors, cache: this.cache }), this.factors);
			way.final = { ...final, values: final.values.map((v, k) => v + (this.offsets[k] ?? 0)) };
		}
	}
	/** A way's own change on the plan as run. */
	private asTried(way: WayOn): PlanDocument {
		const order = way.plan!.runs;
		const locked = this.plan.runs.filter((r) => r.locked);
		const open = order.filter((r) => this.open.some((o) => o.id === r.id));
		const known = new Set(this.plan.settings.map((s) => s.id));
		return {
			...this.plan,
			holdDowns: way.plan!.holdDowns,
			joints: way.plan!.joints,
			settings: [...this.plan.settings, ...way.plan!.settings.filter((s) => !known.has(s.id))],
			runs: [...locked, ...open]
		};
	}

	private soFar(): Replan {
		const { features } = this.issued;
		const better = this.ways.slice(1);
		return {
			features: features.map((f, k) => ({
				id: f.id,
				name: f.name,
				unit: unitOf(f),
				upper: f.tolerance.upper,
				...(f.tolerance.lower === undefined ? {} : { lower: f.tolerance.lower }),
				...(this.offsets?.[k] === undefined ? {} : { offset: this.offsets[k] })
			})),
			laid: begunRuns(this.at).length,
			ways: [...this.ways],
			words: better.length
				? `${better.length === 1 ? 'One way on ends' : `${better.length} ways on end`} nearer the drawing than going on as planned.`
				: 'Nothing that was tried ends nearer the drawing than going on as planned.',
			stopped: this.stopped
		};
	}
}

/** Settings of their own for the runs that are left: what lies was laid with the old ones. */
function withLessCurrent(plan: PlanDocument, open: ReadonlySet<string>): PlanDocument {
	const f = 5 / 6;
	const settings = [...plan.settings];
	const runs = plan.runs.map((r) => {
		if (!open.has(r.id)) return r;
		const own = settings.find((s) => s.id === (r.settings ?? plan.joints.find((j) => j.id === r.joint)!.settings))!;
		const id = `${own.id}.less`.slice(0, 60);
		if (!settings.some((s) => s.id === id))
			settings.push({
				...own,
				id,
				name: `${own.name}, five sixths`.slice(0, 80),
				ampsA: own.ampsA * f,
				...(own.backgroundA === undefined ? {} : { backgroundA: own.backgroundA * f })
			});
		return { ...r, settings: id };
	});
	return { ...plan, settings, runs };
}

const withWaits = (plan: PlanDocument, open: ReadonlySet<string>): PlanDocument => ({
	...plan,
	runs: plan.runs.map((r) => (open.has(r.id) ? { ...r, waitBeforeS: GO_COLD_S } : r))
});

/** On before the first run that is left of a seam, over the length that is left. */
function withBar(plan: PlanDocument, joint: string, name: string, open: ReadonlySet<string>): PlanDocument {
	const own = plan.runs.filter((r) => r.joint === joint && open.has(r.id));
	const ends = own.flatMap((r) => [r.fromMm, r.toMm]);
	const bar: Bar = {
		id: `replan-bar-${joint}`.slice(0, 60),
		name: `Bar behind ${name}`.slice(0, 80),
		kind: 'bar',
		life: { on: `before-run:${own[0].id}`, off: 'when-cold' },
		joint,
		fromMm: Math.min(...ends),
		toMm: Math.max(...ends),
		...BAR
	};
	return { ...plan, holdDowns: [...plan.holdDowns, bar] };
}
