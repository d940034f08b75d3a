import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { fillerOf, fillerOfSettings } from './fillerWords';

describe('filler as a welder is told', () => {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;
	const [settings] = plan.settings;
	it('a fused seam takes none, though its settings name a grade', () => {
		expect(settings.fillerGrade).toBe('308L');
		expect(fillerOf({ filler: false }, settings)).toBe('none, fused');
		expect(fillerOf({ filler: true }, { fillerGrade: '308L', fillerMm: 1.2 })).toBe('308L 1.2 mm');
		expect(fillerOf({ filler: true }, {})).toBe('not chosen');
	});
	it('of settings: none where all are fused, and by name where only some are fed', () => {
		for (const j of plan.joints) j.filler = false;
		expect(fillerOfSettings(plan, settings)).toBe('no filler, fused');
		plan.joints[0].filler = true;
		expect(fillerOfSettings(plan, settings)).toBe(`filler 308L 1.2 mm on ${plan.joints[0].name}; the others fused`);
		for (const j of plan.joints) j.filler = true;
		expect(fillerOfSettings(plan, settings)).toBe('filler 308L 1.2 mm');
	});
});
