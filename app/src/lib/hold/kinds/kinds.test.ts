import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { pathLength } from '$core/geometry/polyline';
import { checkPlan } from '$core/plan/check';
import { isFlatSheet } from '$core/holds/holding-table';
import { HOLD_CHOICES, newHolds } from '.';
import { barSection } from './sections';

describe('hold-downs as they are first put on', () => {
	for (const kind of MADE_FAMILIES)
		for (const choice of HOLD_CHOICES)
			it(`${choice.name} on ${kind}: sound where they go, inside their seam or part`, () => {
				const plan = newPlan(kind, FAMILY_DEFAULTS[kind]).plan!;
				const joint = plan.joints.find((j) => !j.stock)!;
				let n = 0;
				const made = newHolds(choice.value, { plan, joint, part: plan.parts[0], unique: (w) => `${w}-${++n}` });
				// a table wants a sheet that lies flat on it; everything else goes on every piece
				if (choice.value === 'holding-table' && !isFlatSheet(plan.parts[0])) return expect(made).toEqual([]);
				expect(made.length).toBeGreaterThan(0);
				expect(checkPlan({ ...plan, holdDowns: made })).toEqual([]);
				for (const h of made) {
					if ('toMm' in h) expect(h.toMm).toBeLessThanOrEqual(pathLength(joint.a.path));
					expect(h.life).toEqual({ on: 'start', off: 'when-cold' });
				}
			});
	it('a flat bar’s section by formula: b h^3 / 12 both ways, b t^3 / 3 for torsion', () =>
		expect(barSection(6, 40)).toEqual({ areaMm2: 240, iOutMm4: 32_000, iInMm4: 720, torsionMm4: (40 * 216) / 3 }));
});
