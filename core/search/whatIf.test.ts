import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { pathLength } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { WHAT_IFS } from './whatIf';

const plans = (['open-trough', 'butt-panel'] as const).map((kind) => newPlan(kind, { ...FAMILY_DEFAULTS[kind] }).plan!);
const byId = (id: string) => WHAT_IFS.find((w) => w.id === id)!;

describe('changes to try', () => {
	for (const w of WHAT_IFS)
		it(`“${w.label}” gives a plan that can be, and leaves the one it came from alone`, () => {
			for (const plan of plans) {
				const before = JSON.stringify(plan);
				const then = w.apply(plan, plan.joints[0].id);
				expect(checkPlan(then)).toEqual([]);
				expect(JSON.stringify(plan)).toBe(before);
				expect(JSON.stringify(then)).not.toBe(before);
			}
		});
	it('the bar lies behind the whole seam and no other', () => {
		const [plan] = plans;
		const then = byId('bar').apply(plan, plan.joints[1].id);
		const bar = then.holdDowns.find((h) => h.kind === 'bar')!;
		expect(bar).toMatchObject({ joint: plan.joints[1].id, fromMm: 0, toMm: pathLength(plan.joints[1].a.path), material: 'copper' });
		expect(then.holdDowns).toHaveLength(plan.holdDowns.length + 1);
	});
	it('five sixths of the current, pulsed or steady', () => {
		const plan = structuredClone(plans[1]);
		plan.settings[0] = { ...plan.settings[0], current: 'pulsed', ampsA: 60, backgroundA: 30, onFraction: 0.5 };
		expect(byId('less-heat').apply(plan, '').settings[0]).toMatchObject({ ampsA: 50, backgroundA: 25 });
	});
	it('runs of half the length cover the same seams, laid back', () => {
		for (const plan of plans) {
			const then = byId('half-runs').apply(plan, '');
			const length = (p: typeof plan) => p.runs.reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
			expect(length(then)).toBeCloseTo(length(plan), 6);
			expect(then.runs.length).toBeGreaterThan(plan.runs.length);
		}
	});
	it('clamps reach from end to end, some 120 mm apart, hold until cold, and are not put twice', () => {
		const [plan] = plans;
		const id = plan.joints[0].id;
		const then = byId('clamp-until-cold').apply(plan, id);
		const at = then.holdDowns.flatMap((h) => (h.kind === 'clamp' && h.joint === id ? [h.stationMm] : [])).sort((a, b) => a - b);
		// within a thumb of either end, and no farther
		expect(at[0]).toBeLessThan(20);
		expect(pathLength(plan.joints[0].a.path) - at[at.length - 1]).toBeLessThan(20);
		expect(at[at.length - 1]).toBeLessThanOrEqual(pathLength(plan.joints[0].a.path));
		for (let i = 1; i < at.length; i++) expect(at[i] - at[i - 1]).toBeLessThan(180);
		expect(new Set(then.holdDowns.map((h) => h.id)).size).toBe(then.holdDowns.length);
		expect(() => byId('clamp-until-cold').apply(then, id)).toThrow(/clamped along already/);
	});
	it('a seam that is not there is asked for', () => expect(() => byId('bar').apply(plans[0], 'nowhere')).toThrow(/Choose a seam/));
});
