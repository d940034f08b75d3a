import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { findMaterial } from '../materials/grades';
import type { Joint } from '../document/schema';
import { WHAT_IFS } from '../search/whatIf';
import { responseInput } from './forPlan';
import { adviseSettings, differences, fillerFor, heatChecks } from './settingsAdvice';
import { poolWidth } from './weldResponse';

const base = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], thicknessMm: 1.5 }).plan!;
const own = base.settings[0];
const of = (change: Partial<Joint> = {}, thickness = 1.5) => {
	const joint = { ...base.joints[0], ...change };
	const sheets = [0, 1].map(() => ({ material: findMaterial('1.4301'), thicknessMm: thickness, widthMm: 200 }));
	return { joint, sheets };
};
const advice = (change: Partial<Joint> = {}, thickness = 1.5) => {
	const { joint, sheets } = of(change, thickness);
	return adviseSettings(joint, sheets, own, 20);
};
const value = (a: ReturnType<typeof advice>, key: string) => a.fields.find((f) => f.key === key)?.value;

describe('settings advisor', () => {
	it('starts near 1 A per 0.001 in of thickness for full penetration (common practice, no source)', () => {
		for (const t of [0.9, 1.2, 1.5, 2, 3]) {
			const a = advice({ penetration: 'full' }, t);
			const rule = t / 0.0254;
			const mean = a.settings.current === 'pulsed' ? 0.85 * a.settings.ampsA : a.settings.ampsA;
			expect(mean).toBeGreaterThan(0.65 * rule);
			expect(mean).toBeLessThan(1.35 * rule);
		}
	});
	it('sealing on 1.2 mm: pulsed, 8 a second, half on, near 50 A peak and 36 A background (common practice, no source)', () => {
		const a = advice({ penetration: 'sealing' }, 1.2);
		expect(a.settings).toMatchObject({ current: 'pulsed', pulsesPerSecond: 8, onFraction: 0.5 });
		expect(Math.abs(a.settings.ampsA / 50 - 1)).toBeLessThan(0.05);
		expect(Math.abs(a.settings.backgroundA! / 36 - 1)).toBeLessThan(0.05);
		expect(a.settings.speedMmPerS).toBeGreaterThanOrEqual(1.2);
		expect(a.settings.speedMmPerS).toBeLessThanOrEqual(5);
	});
	it('asks for less over a thick bar than without', () => {
		const plan = WHAT_IFS.find((w) => w.id === 'bar')!.apply(base, base.joints[0].id);
		const bar = plan.holdDowns.find((h) => h.kind === 'bar')!;
		const { joint, sheets } = of({ penetration: 'full' });
		const on = adviseSettings(joint, sheets, own, 20, bar as Parameters<typeof adviseSettings>[4]);
		expect(on.fields.find((f) => f.key === 'ampsA')!.why).toMatch(/five sixths/);
		expect(on.settings.purgeLPerMin).toBeUndefined();
		expect(advice({ penetration: 'full' }).settings.purgeLPerMin).toBe(2.4);
	});
	it('the heat solver finds its own advice sound', () => {
		for (const penetration of ['full', 'partial', 'sealing'] as const) {
			const { joint, sheets } = of({ penetration });
			const a = adviseSettings(joint, sheets, own, 20);
			expect(a.checks.filter((c) => !c.isGood).map((c) => c.label)).toEqual([]);
			expect(poolWidth({ joint, settings: a.settings, sheets, ambientC: 20 })).toBeGreaterThan(0);
		}
	});
	it('says when settings drop through, do not fuse, or miss the root', () => {
		const { joint, sheets } = of({ penetration: 'full' });
		const bad = (ampsA: number) =>
			heatChecks({ joint, settings: { ...own, ampsA }, sheets, ambientC: 20 })
				.filter((c) => !c.isGood)
				.map((c) => c.label);
		expect(bad(200)).toContain('Drops through?');
		expect(bad(12)).toContain('Reaches the root?');
		const shallow = of({ penetration: 'sealing' });
		const cold = heatChecks({ joint: shallow.joint, settings: { ...own, ampsA: 8 }, sheets: shallow.sheets, ambientC: 20 });
		expect(cold.find((c) => c.label === 'Fuses only?')!.words).toMatch(/does not fuse/);
		const out = heatChecks({ joint, settings: { ...own, cupMm: 10, stickOutMm: 15 }, sheets, ambientC: 20 });
		expect(out.find((c) => c.label === 'Stick-out')!.isGood).toBe(false);
	});
	it('filler by pair of grades (common practice, no source)', () => {
		const m = findMaterial;
		expect(fillerFor(m('1.4301'), m('1.4301')).grade).toBe('308L');
		expect(fillerFor(m('1.4404'), m('1.4404')).grade).toBe('316L');
		expect(fillerFor(m('1.4301'), m('1.4404')).grade).toBe('309L');
		expect(fillerFor(m('1.4301'), m('S235')).grade).toBe('309L');
		expect(fillerFor(m('1.4301'), m('6061')).grade).toBeUndefined();
	});
	it('shows where the settings in use differ, and that the advice does not differ from itself', () => {
		const { joint, sheets } = of({ penetration: 'full', filler: true });
		const a = adviseSettings(joint, sheets, own, 20);
		expect(differences(a.settings, a)).toEqual([]);
		const d = differences({ ...a.settings, ampsA: 2 * a.settings.ampsA, fillerGrade: '347' }, a);
		expect(d.map((x) => x.label).sort()).toEqual(['Amps', 'Filler']);
	});
	it('unlike thickness: the thicker sheet takes the arc', () => {
		const { joint } = of();
		const sheets = [1, 3].map((thicknessMm) => ({ material: findMaterial('1.4301'), thicknessMm, widthMm: 200 }));
		expect(adviseSettings(joint, sheets, own, 20).cautions.join(' ')).toMatch(/thicker one/);
	});
	it('responds to what a plan’s own input says', () => {
		const input = responseInput(base, base.joints[0], own, undefined);
		expect(heatChecks(input).length).toBeGreaterThanOrEqual(3);
		expect(value(advice({ filler: true }), 'fillerMm')).toBe(1.2);
	});
});
