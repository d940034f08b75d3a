import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { forecast } from '../forecast/forecast';
import { movedByRuns, movedWords, type Moved } from './moves';

describe('what a run moves', () => {
	const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
	it('is its share of what all of them make, two features at most, none that nobody could read', () => {
		const whole = forecast(plan).result;
		const moved = movedByRuns(whole, plan.runs);
		// lengths add up: run by run, with the tacks, they make the whole
		for (const f of whole.features.filter((x) => x.kind === 'length'))
			expect(
				f.influence.reduce((sum, i) => sum + i.value, 0),
				f.name
			).toBeCloseTo(f.predicted, 6);
		expect(Object.values(moved).some((list) => list.length)).toBe(true);
		for (const [run, list] of Object.entries(moved))
			for (const m of list) {
				const f = whole.features.find((x) => x.name === m.feature)!;
				expect([m.value, m.all]).toEqual([f.influence.find((i) => i.step === run)!.value, f.predicted]);
			}
		for (const list of Object.values(moved)) {
			expect(list.length).toBeLessThanOrEqual(2);
			for (const m of list) expect(Math.abs(m.value)).toBeGreaterThanOrEqual(m.unit === 'mm' ? 0.05 : 0.02);
			expect(list.every((m) => whole.features.find((x) => x.name === m.feature)!.verdict !== 'final shape')).toBe(true);
		}
	});
	it('in words, in the person’s unit; nothing is said while it is not known', () => {
		const quantity = (v: number, u: Moved['unit']) => `${v > 0 ? '+' : ''}${v.toFixed(2)} ${u}`;
		expect(movedWords(undefined, quantity)).toBe('');
		expect(movedWords([], quantity)).toMatch(/moves none of the lengths and angles/);
		expect(movedWords([{ feature: 'Mouth width', unit: 'mm', value: -0.21, all: -0.57 }], quantity)).toMatch(
			/^By the forecast this run moves Mouth width by -0.21 mm of -0.57 mm in all\. Hotter or slower/
		);
	});
});
