/**
 * What else could be changed besides the order: bars, clamps, stiffeners, heat. All candidates stand in one condensed model and
 * are put on or left off, so that each set costs one staging. The hold-down advisor looks for the smallest set that brings
 * every feature inside its limit.
 */
import { pathLength } from '../geometry/polyline';
import { analyse, ForecastCache, scalesOf, type Scales } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast } from '../forecast/forecast';
import { priorFactors, type ShopFactors } from '../factors/factors';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { usualAngle } from '../holds/usual';
import { WHAT_IFS } from './whatIf';
import { exceedance, featureCost, type SearchGoals } from './cost';
import { Refusal } from '../refusal/refusal';

/** A change to a plan that a planner can take over as it is. */
export interface PlanChange {
	holdDowns?: AnyHoldDown[];
	/** on every setting's currents */
	currentFactor?: number;
	/** over-angles by joint, degrees */
	presets?: Record<string, number>;
}

export interface Lever {
	id: string;
	label: string;
	kind: 'bar' | 'clamps' | 'stiffener' | 'heat';
	change: PlanChange;
	/** drop of the weighted features by itself */
	gain: number;
	/** by feature, with it alone */
	values: number[];
}

export function applyChange(plan: PlanDocument, change: PlanChange): PlanDocument {
	const f = change.currentFactor;
	return {
		...plan,
		holdDowns: [...plan.holdDowns, ...(change.holdDowns ?? [])],
		settings: f
			? plan.settings.map((s) => ({ ...s, ampsA: s.ampsA * f, ...(s.backgroundA === undefined ? {} : { backgroundA: s.backgroundA * f }) }))
			: plan.settings,
		joints: change.presets
			? plan.joints.map((j) => (change.presets![j.id] === undefined ? j : { ...j, presetDeg: change.presets![j.id] }))
			: plan.joints
	};
}

/** A lever must lower the weighted features by this share to be offered at all. */
const LEAST = 0.02;

/** Everything that could be put on or turned down, whether or not it helps. */
export function candidates(plan: PlanDocument): Omit<Lever, 'gain' | 'values'>[] {
	const out: Omit<Lever, 'gain' | 'values'>[] = [];
	const byId = (id: string) => WHAT_IFS.find((w) => w.id === id)!;
	const added = (whatIf: string, joint: string): AnyHoldDown[] | undefined => {
		try {
			return byId(whatIf).apply(plan, joint).holdDowns.slice(plan.holdDowns.length);
		} catch {
			return undefined; // it has one already
		}
	};
	for (const j of plan.joints) {
		if (j.stock || !plan.runs.some((r) => r.joint === j.id)) continue;
		const bar = added('bar', j.id);
		if (bar)
			out.push({
				id: `bar:${j.id}`,
				label: `Copper bar behind “${j.name}”`,
				kind: 'bar',
				change: { holdDowns: bar.map((h) => ({ ...h, id: `adv-bar-${j.id}` }) as AnyHoldDown) }
			});
		const clamps = added('clamp-until-cold', j.id);
		if (clamps)
			out.push({
				id: `clamps:${j.id}`,
				label: `Clamps along “${j.name}” until cold`,
				kind: 'clamps',
				change: { holdDowns: clamps.map((h, i) => ({ ...h, id: `adv-cl-${j.id}-${i + 1}` }) as AnyHoldDown) }
			});
	}
	for (const f of plan.features) {
		if (f.kind !== 'straightness' || pathLength(f.path) < 10) continue;
		const angle = usualAngle(f, `adv-sb-${f.id}`);
		// taken over before, it is there already
		if (plan.holdDowns.some((h) => h.id === angle.id)) continue;
		out.push({
			id: `stiffener:${f.id}`,
			label: `Steel angle clamped along the line of “${f.name}” until cold`,
			kind: 'stiffener',
			change: { holdDowns: [angle] }
		});
	}
	out.push({ id: 'heat', label: 'Five sixths of the current on all seams', kind: 'heat', change: { currentFactor: 5 / 6 } });
	return out;
}

/** All candidates in one model. */
export class LeverBench {
	readonly list: Omit<Lever, 'gain' | 'values'>[];
	private readonly whole: PlanDocument;
	private readonly scales: Scales;
	private readonly cache: ForecastCache;

	constructor(
		readonly plan: PlanDocument,
		factors: ShopFactors,
		kernel?: KernelFactory,
		readonly kinds: readonly Lever['kind'][] = ['bar', 'clamps', 'stiffener', 'heat']
	) {
		this.list = candidates(plan).filter((c) => kinds.includes(c.kind));
		this.whole = { ...plan, holdDowns: [...plan.holdDowns, ...this.list.flatMap((c) => c.change.holdDowns ?? [])] };
		this.scales = scalesOf(factors.mean);
		this.cache = new ForecastCache(kernel);
	}

	/** Features by the quick method with these levers on, and no others. */
	values(on: ReadonlySet<string>): number[] {
		const out = new Set<string>();
		let factor = 1;
		for (const c of this.list) {
			if (on.has(c.id)) factor *= c.change.currentFactor ?? 1;
			else for (const h of c.change.holdDowns ?? []) out.add(h.id);
		}
		const plan = factor === 1 ? this.whole : applyChange(this.whole, { currentFactor: factor });
		const a = analyse(plan, this.cache, { leaveOut: out });
		return this.plan.features.map((f) => a.featureAt(f, 'unclamped', this.scales));
	}
}

/** The single changes that help most, best first: what to do where the order of welding hardly matters. */
export function whatMattersMore(
	plan: PlanDocument,
	goals: SearchGoals,
	factors: ShopFactors,
	kernel?: KernelFactory,
	tell: (share: number) => void = () => {}
): Lever[] {
	if (!plan.features.length) return [];
	const bench = new LeverBench(plan, factors, kernel, ['bar', 'heat']);
	const before = featureCost(plan.features, bench.values(new Set()), goals);
	return bench.list
		.map((c, i): Lever => {
			tell(i / bench.list.length);
			const values = bench.values(new Set([c.id]));
			return { ...c, values, gain: before - featureCost(plan.features, values, goals) };
		})
		.filter((l) => l.gain > LEAST * before)
		.sort((p, q) => q.gain - p.gain)
		.slice(0, 3);
}

export interface AdviceStep {
	lever: Lever;
	/** by feature, with this and all steps before it */
	values: number[];
}

export interface HoldAdvice {
	features: { id: string; name: string }[];
	before: number[];
	steps: AdviceStep[];
	/** every feature inside its limit with all steps, by the quick method */
	enough: boolean;
	words: string;
	/** by the final shape: before, and with all steps together */
	final?: { before: number[]; after: number[]; words: string };
	/** the whole set as one change */
	change: PlanChange;
}

export interface AdviceOptions {
	factors?: ShopFactors;
	kernel?: KernelFactory;
	tell?: (phase: string, share: number) => void;
	stop?: () => boolean;
}

/** Where the values of a final shape are those of a part of the pull. */
export const NOT_WHOLE = 'The final shape was not found for the whole pull and bears out nothing here.';
/** Levers tried for each step, the most helpful first. */
const TRIED = 8;
/** Steps offered at most. */
const MOST_STEPS = 5;

/** The first two, of those given best first, that do it together. */
function pairThat(list: readonly Lever[], does: (pair: Lever[]) => boolean): Lever[] | undefined {
	for (let j = 1; j < list.length; j++) for (let i = 0; i < j; i++) if (does([list[i], list[j]])) return [list[i], list[j]];
	return undefined;
}

/** The smallest set found, one lever at a time by gain and then thinned, that brings every feature inside its limit. */
// eslint-disable-next-line complexity -- a walk with its bookkeeping: add, weigh, keep or put back
export function adviseHolds(plan: PlanDocument, goals: SearchGoals, options: AdviceOptions = {}): HoldAdvice {
	const factors = options.factors ?? priorFactors();
	const tell = options.tell ?? (() => {});
	const stop = options.stop ?? (() => false);
	if (!plan.features.length) throw new Refusal('The plan names no feature that must come true: add features on the Job page.');
	if (!plan.runs.length) throw new Refusal('There are no runs yet: choose an order first.');
	tell('Condensing the piece with every candidate', 0);
	const bench = new LeverBench(plan, factors, options.kernel);
	const { features } = plan;
	const before = bench.values(new Set());
	/** beyond the limits first, and then the rest a little */
	const short = (values: readonly number[]) =>
		features.reduce((s, f, k) => s + (goals.features[f.id] ?? 1) * Math.max(0, Math.abs(exceedance(f, values[k])) - 1) ** 2, 0) +
		1e-3 * featureCost(features, values, goals);
	const inside = (values: readonly number[]) => features.every((f, k) => Math.abs(exceedance(f, values[k])) <= 1);
	const alone = new Map<string, Lever>();
	bench.list.forEach((c, i) => {
		if (stop()) return;
		tell(c.label, 0.1 + (0.5 * i) / bench.list.length);
		const values = bench.values(new Set([c.id]));
		alone.set(c.id, { ...c, values, gain: featureCost(features, before, goals) - featureCost(features, values, goals) });
	});
	const better = (p: { values: number[] }, q: { values: number[] }) =>
		Number(inside(q.values)) - Number(inside(p.values)) || short(p.values) - short(q.values);
	const helpful = [...alone.values()].filter((l) => short(l.values) < short(before)).sort(better);
	const withAll = (levers: readonly Lever[]) => bench.values(new Set(levers.map((l) => l.id)));
	let steps: AdviceStep[] = [];
	let now = before;
	for (let n = 0; n < MOST_STEPS && !inside(now) && !stop(); n++) {
		tell(`Choosing step ${n + 1}`, 0.6 + 0.05 * n);
		const on = steps.map((s) => s.lever.id);
		const tried = helpful
			.filter((l) => !on.includes(l.id))
			.slice(0, TRIED)
			.map((lever) => ({ lever, values: n === 0 ? lever.values : withAll([...steps.map((s) => s.lever), lever]) }))
			.sort(better);
		if (!tried.length || (!inside(tried[0].values) && short(tried[0].values) > short(now) * (1 - LEAST))) break;
		steps.push(tried[0]);
		now = tried[0].values;
	}
	// what a later step has made needless goes again
	if (inside(now)) {
		let set = steps.map((s) => s.lever);
		for (const l of [...set]) {
			const rest = set.filter((x) => x !== l);
			if (rest.length && inside(withAll(rest))) set = rest;
		}
		// one at a time by gain may pass over two that do it together
		if (set.length > 2) set = pairThat(helpful.slice(0, TRIED), (pair) => !stop() && inside(withAll(pair))) ?? set;
		steps = set.map((lever, i) => ({ lever, values: withAll(set.slice(0, i + 1)) }));
		if (steps.length) now = steps[steps.length - 1].values;
	}
	const wasInside = inside(before);
	if (wasInside) steps = helpful.slice(0, 3).map((lever) => ({ lever, values: lever.values }));
	const change: PlanChange = wasInside
		? {}
		: {
				holdDowns: steps.flatMap((s) => s.lever.change.holdDowns ?? []),
				...(steps.some((s) => s.lever.change.currentFactor)
					? { currentFactor: steps.reduce((f, s) => f * (s.lever.change.currentFactor ?? 1), 1) }
					: {})
			};
	let final: HoldAdvice['final'];
	if (steps.length && !wasInside && !stop()) {
		tell('Final shape of the piece as planned', 0.86);
		const cache = new ForecastCache(options.kernel);
		const p = finalValues(forecast(plan, { factors, cache }), factors);
		tell('Final shape with all of it', 0.93);
		const q = finalValues(forecast(applyChange(plan, change), { factors, cache }), factors);
		final = { before: p.values, after: q.values, words: [p.words, q.words].filter(Boolean).join(' ') };
	}
	tell('Done', 1);
	const stays = final ? features.filter((f, k) => Math.abs(exceedance(f, final.after[k])) > 1).map((f) => `“${f.name}”`) : [];
	const finalWords = !final
		? ''
		: final.words
			? ` ${NOT_WHOLE} ${final.words}`
			: stays.length
				? ` The final shape, which knows waves and dishing, leaves ${stays.join(', ')} outside all the same: see the last column before you trust it.`
				: ' The final shape agrees.';
	const open = features.filter((f, k) => Math.abs(exceedance(f, now[k])) > 1).map((f) => `“${f.name}”`);
	return {
		features: features.map((f) => ({ id: f.id, name: f.name })),
		before,
		steps,
		enough: inside(now),
		words:
			(wasInside
				? 'Every feature is forecast inside its limit already. What would help most, one at a time:'
				: inside(now)
					? `${steps.length === 1 ? 'One change brings' : `${steps.length} changes together bring`} every feature inside its limit, by the quick method's value (the band may still reach beyond).`
					: steps.length
						? `These help, but ${open.join(', ')} ${open.length > 1 ? 'stay' : 'stays'} outside: set it out of true beforehand (presets), ease the tolerance, or change the joint.`
						: `No bar, clamp, stiffener or lower heat here brings ${open.join(', ')} nearer its limit: set it out of true beforehand (presets), or change the joint.`) +
			finalWords,
		final,
		change
	};
}
