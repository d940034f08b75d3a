/** The hold-down advisor: what it offers is enough where it says so, nothing of it is needless, and limits that are kept need nothing. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { priorFactors } from '../factors/factors';
import { kernelFactory } from '../linalg/kernel/kernel';
import { checkPlan } from '../plan/check';
import type { PlanDocument } from '../document/schema';
import { DEFAULT_GOALS, exceedance, featureCost } from './cost';
import { adviseHolds, applyChange, candidates, LeverBench, whatMattersMore, type HoldAdvice } from './levers';

const kernel = kernelFactory(WebAssembly);
const scales = scalesOf(priorFactors().mean);
/** a trough whose limits are so many times what it is forecast to do */
function trough(share: number, change: (p: PlanDocument) => void = () => {}): PlanDocument {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 30;
	const a = analyse(plan, new ForecastCache(kernel));
	for (const f of plan.features) {
		const off = Math.max(0.05, Math.abs(a.featureAt(f, 'unclamped', scales)));
		f.tolerance = { upper: share * off, lower: f.tolerance.lower === undefined ? undefined : -share * off, source: 'typed' };
	}
	change(plan);
	return plan;
}
const inside = (plan: PlanDocument, values: readonly number[]) => plan.features.every((f, k) => Math.abs(exceedance(f, values[k])) <= 1);
const ids = (r: HoldAdvice) => new Set(r.steps.map((s) => s.lever.id));

describe('levers', () => {
	it('every candidate is a change the plan can take as it is', () => {
		const plan = trough(0.5);
		const list = candidates(plan);
		expect(new Set(list.map((c) => c.kind))).toEqual(new Set(['bar', 'clamps', 'stiffener', 'heat']));
		expect(new Set(list.map((c) => c.id)).size).toBe(list.length);
		for (const c of list) expect(checkPlan(applyChange(plan, c.change)), c.label).toEqual([]);
		// all of them at once, as the bench holds them
		expect(checkPlan(list.reduce((p, c) => applyChange(p, c.change), plan))).toEqual([]);
	});
	it('put on one by one they do what a plan of their own does; left off they do nothing', () => {
		const plan = trough(0.5);
		const bench = new LeverBench(plan, priorFactors(), kernel, ['bar', 'heat']);
		const own = (p: PlanDocument) => {
			const a = analyse(p, new ForecastCache(kernel));
			return plan.features.map((f) => a.featureAt(f, 'unclamped', scales));
		};
		for (const on of [new Set<string>(), new Set([bench.list[0].id]), new Set([bench.list[0].id, 'heat'])]) {
			const taken = bench.list.filter((c) => on.has(c.id)).reduce((p, c) => applyChange(p, c.change), plan);
			// the candidates stand in one mesh of their own: some thousandths
			own(taken).forEach((v, k) => expect(Math.abs(bench.values(on)[k] - v), plan.features[k].name).toBeLessThan(0.02 + 0.02 * Math.abs(v)));
		}
	});
	it('what matters more is sorted by gain, at most three, each a true drop of what counts', () => {
		const plan = trough(0.4);
		const list = whatMattersMore(plan, DEFAULT_GOALS, priorFactors(), kernel);
		expect(list.length).toBeGreaterThan(0);
		expect(list.length).toBeLessThanOrEqual(3);
		const bench = new LeverBench(plan, priorFactors(), kernel, ['bar', 'heat']);
		const before = featureCost(plan.features, bench.values(new Set()), DEFAULT_GOALS);
		for (const l of list) expect(before - featureCost(plan.features, l.values, DEFAULT_GOALS)).toBeCloseTo(l.gain, 9);
		expect(list.map((l) => l.gain)).toEqual(list.map((l) => l.gain).sort((p, q) => q - p));
	});
});

describe('the hold-down advisor', () => {
	it('limits that are kept need nothing: nothing is changed, and what would help is offered one at a time', () => {
		const plan = trough(3);
		const r = adviseHolds(plan, DEFAULT_GOALS, { kernel });
		expect([r.enough, r.change, r.final]).toEqual([true, {}, undefined]);
		expect(r.words).toMatch(/inside its limit already/);
		for (const s of r.steps) expect(s.values).toEqual(s.lever.values);
	});
	it.each([0.9, 0.75, 0.6])('limits at %d of what is forecast: enough where it says so, and no step of it is needless', (share) => {
		const plan = trough(share);
		const r = adviseHolds(plan, DEFAULT_GOALS, { kernel });
		expect(inside(plan, r.before)).toBe(false);
		const bench = new LeverBench(plan, priorFactors(), kernel);
		const all = bench.values(ids(r));
		expect(inside(plan, all)).toBe(r.enough);
		// each step's values are those with it and all before it
		r.steps.forEach((s, i) =>
			bench.values(new Set(r.steps.slice(0, i + 1).map((x) => x.lever.id))).forEach((v, k) => expect(s.values[k]).toBeCloseTo(v, 9))
		);
		if (r.enough)
			for (const s of r.steps) {
				const rest = new Set([...ids(r)].filter((id) => id !== s.lever.id));
				if (rest.size) expect(inside(plan, bench.values(rest)), `without ${s.lever.label}`).toBe(false);
			}
		else expect(r.words).toMatch(/outside|nearer its limit/);
		expect(r.steps.length).toBeLessThanOrEqual(5);
		// as one change it is a plan, and the final shape has been asked of it
		expect(checkPlan(applyChange(plan, r.change))).toEqual([]);
		if (r.steps.length) expect(r.final!.after.every(Number.isFinite)).toBe(true);
	});
	it('where one change does it, one is offered', () => {
		// limits that five sixths of the current keep, and that the plan does not
		const plan = trough(1);
		const bench = new LeverBench(plan, priorFactors(), kernel);
		const [now, cooler] = [bench.values(new Set()), bench.values(new Set(['heat']))];
		plan.features.forEach((f, k) => {
			const between = Math.max(Math.abs(cooler[k]), (Math.abs(now[k]) + Math.abs(cooler[k])) / 2);
			f.tolerance = { upper: between, lower: f.tolerance.lower === undefined ? undefined : -between, source: 'typed' };
		});
		const r = adviseHolds(plan, DEFAULT_GOALS, { kernel });
		expect([r.enough, r.steps.length]).toEqual([true, 1]);
		expect(r.words).toMatch(/^One change brings every feature inside its limit/);
	});
	it('limits nothing can keep: what helps is offered and what stays outside is named', () => {
		const plan = trough(0.02);
		const r = adviseHolds(plan, DEFAULT_GOALS, { kernel });
		expect(r.enough).toBe(false);
		const open = plan.features.filter((f, k) => Math.abs(exceedance(f, (r.steps[r.steps.length - 1]?.values ?? r.before)[k])) > 1);
		expect(open.length).toBeGreaterThan(0);
		for (const f of open) expect(r.words).toContain(`“${f.name}”`);
	});
	it('stopped, it answers with what it has and asks for no final shape', () => {
		let asked = 0;
		const r = adviseHolds(trough(0.6), DEFAULT_GOALS, { kernel, stop: () => ++asked > 3 });
		expect(r.final).toBeUndefined();
		expect(r.before.every(Number.isFinite)).toBe(true);
	});
	it('a seam that has a bar is offered no second one', () => {
		const plan = trough(0.5);
		const with1 = applyChange(plan, candidates(plan).find((c) => c.kind === 'bar')!.change);
		expect(candidates(with1).filter((c) => c.kind === 'bar')).toHaveLength(candidates(plan).filter((c) => c.kind === 'bar').length - 1);
	});
});
