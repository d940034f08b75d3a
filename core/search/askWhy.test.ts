/** What is asked of a thing that is pointed at: other plans in that respect and no other, none that could not be carried out. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { comparePlans } from '../forecast/compare';
import { usualBar, usualClamps } from '../holds/usual';
import { kernelFactory } from '../linalg/kernel/kernel';
import { checkPlan } from '../plan/check';
import { othersOf, type PointedAt } from './askWhy';

const made = (): PlanDocument => {
	const { plan } = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 200 });
	const [joint] = plan!.joints;
	return { ...plan!, joints: [{ ...joint, presetDeg: 2 }], holdDowns: [usualBar(joint, 'bar'), ...usualClamps(joint, (i) => `c${i}`)] };
};
const labels = (plan: PlanDocument, at: PointedAt) => othersOf(plan, at).map((o) => o.label);

describe('pointed at', () => {
	const plan = made();
	it('a bar: without it, half of it, off early; a clamp at the end moves one way only', () => {
		expect(labels(plan, { kind: 'hold-down', id: 'bar' })).toEqual(['not there', 'half as long', 'off after tacking']);
		const [first] = plan.holdDowns.filter((h) => h.kind === 'clamp');
		expect(labels(plan, { kind: 'hold-down', id: first.id })).toEqual(['not there', '20 mm farther on', 'off after tacking']);
	});
	it('a run: turned, first, last; the first is not offered to be first', () => {
		expect(labels(plan, { kind: 'run', id: plan.runs[0].id })).toEqual(['laid the other way', 'the last of all']);
		expect(labels(plan, { kind: 'run', id: plan.runs[1].id })).toEqual(['laid the other way', 'the first of all', 'the last of all']);
	});
	it('a seam: set true, held by nothing, in one go; a tack: not there, longer', () => {
		expect(labels(plan, { kind: 'joint', id: plan.joints[0].id })).toEqual(['set true', 'held by nothing', 'welded in one go']);
		expect(labels(plan, { kind: 'tack', id: plan.tacks[0].id })).toEqual(['not there', 'twice as long']);
	});
	it('what is not there has no others, and every other is a sound plan of the same piece', () => {
		for (const kind of ['hold-down', 'tack', 'run', 'joint'] as const) expect(othersOf(plan, { kind, id: 'nothing' })).toEqual([]);
		for (const at of [
			...plan.holdDowns.map((h): PointedAt => ({ kind: 'hold-down', id: h.id })),
			...plan.runs.map((r): PointedAt => ({ kind: 'run', id: r.id })),
			...plan.tacks.map((t): PointedAt => ({ kind: 'tack', id: t.id }))
		])
			for (const o of othersOf(plan, at)) {
				expect(checkPlan(o.plan)).toEqual([]);
				expect([o.plan.parts, o.plan.features]).toEqual([plan.parts, plan.features]);
				expect(o.plan).not.toEqual(plan);
			}
	});
	it('a run that the assembly ties is not offered where it must not go', () => {
		const tank = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80, lid: true }).plan!;
		const last = tank.runs[tank.runs.length - 1];
		expect(tank.fitUp.order!.length).toBeGreaterThan(1);
		expect(labels(tank, { kind: 'run', id: last.id })).not.toContain('the first of all');
	});
	it('without its bar a butt seam pulls harder (common practice, no source)', () => {
		const kernel = kernelFactory(WebAssembly);
		const without = othersOf(plan, { kind: 'hold-down', id: 'bar' })[0].plan;
		const { force } = comparePlans(plan, without, undefined, { now: new ForecastCache(kernel), then: new ForecastCache(kernel) });
		expect(force.then).toBeGreaterThan(1.5 * force.now);
	});
});
