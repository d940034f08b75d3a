/** What a corner makes of its shrinkage across, at both ends of what is known. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { priorFactors } from '../factors/factors';
import { forecast } from '../forecast/forecast';
import { usualBar } from '../holds/usual';
import { findMaterial } from '../materials/grades';
import { cornerEffect, growthOf, LEVER, teeTurn } from './growth';

const seam = (over: object = {}) => ({ ...newPlan('corner-panel', FAMILY_DEFAULTS['corner-panel']).plan!.joints[0], ...over });
const solid = JSON.parse(readFileSync('tests/verification/coupons.json', 'utf8')) as Record<string, { turnDeg: number; shrinkageMm: number }>;
const ends = (e: ReturnType<typeof cornerEffect>) =>
	[-1.645, 1.645].map((z) => ({
		shrinkageMm: e.shrinkageMm + z * e.spread.shrinkageMm,
		turnDeg: ((e.turnRad + z * e.spread.turnRad) * 180) / Math.PI
	}));

describe('a corner under a butt’s growth', () => {
	it('reaches in its band from edges that keep together, as in solid elements, to edges that slide, as a butt', () => {
		const growth = 2 * growthOf(findMaterial('1.4301'), 80, 1.5);
		const inside = cornerEffect(seam({ weldSide: 'back' }), 0.37, growth, false);
		const [together, sliding] = ends(inside);
		expect(together.shrinkageMm).toBeCloseTo(0, 6);
		// a tenth of a mm longer in the solid: upset along the seam widens it
		expect(Math.abs(solid.corner.shrinkageMm)).toBeLessThan(0.1);
		// by the pushing alone; the section's own fold comes on top of it
		expect(Math.abs(together.turnDeg / solid.corner.turnDeg - 1)).toBeLessThan(0.1);
		expect(sliding).toMatchObject({ shrinkageMm: expect.closeTo(0.37, 6) as number, turnDeg: expect.closeTo(0, 6) as number });
	});
	it('closes inside whichever side is welded', () => {
		const [outside, inside] = (['front', 'back'] as const).map((weldSide) => cornerEffect(seam({ weldSide }), 0.3, 0.3, false));
		expect(inside.turnRad).toBeGreaterThan(0);
		expect(outside.turnRad).toBe(-inside.turnRad);
		expect(outside.shrinkageMm).toBe(inside.shrinkageMm);
	});
	it('is a butt’s on a bar, in a seam too short to give way, and in a butt', () => {
		const asButt = { shrinkageMm: 0.3, turnRad: 0, spread: { shrinkageMm: 0, turnRad: 0 } };
		expect(cornerEffect(seam(), 0.3, 0.3, true)).toEqual(asButt);
		expect(cornerEffect(seam({ type: 'butt' }), 0.3, 0.3, false)).toEqual(asButt);
		const short = { part: 'base', path: [[0, 0], [3 * LEVER, 0]] }; // prettier-ignore
		expect(cornerEffect(seam({ a: short }), 0.3, 0.3, false)).toEqual(asButt);
	});
	it('a web pushes its flange away on both sides, twice as far as one of a corner’s sheets pushes the other; nothing else does', () => {
		const web = teeTurn({ type: 'tee' }, 0.1, false);
		const [, sliding] = [0, cornerEffect(seam({ weldSide: 'back' }), 0.2, 0.2, false)];
		expect(web.turnRad).toBeCloseTo(2 * sliding.turnRad, 9);
		expect(teeTurn({ type: 'lap' }, 0.1, false).turnRad).toBe(0);
		expect(teeTurn({ type: 'tee' }, 0.1, true).turnRad).toBe(0);
	});
	it('in a forecast: the angle reads less than ninety by about the turn; free of its spread the band is narrower; a bar keeps it out', () => {
		const plan = newPlan('corner-panel', { ...FAMILY_DEFAULTS['corner-panel'], lengthMm: 120, baseMm: 60, heightMm: 60 }).plan!;
		const angle = (p: typeof plan) => forecast(p, { factors: priorFactors() }).result.features.find((f) => f.kind === 'angle')!;
		const r = forecast(plan).result.seams[0];
		const free = angle(plan);
		expect(free.predicted).toBeLessThan(-0.5);
		expect(Math.abs(free.predicted + Math.abs(r.angularChangeDeg))).toBeLessThan(0.3 * Math.abs(r.angularChangeDeg));
		const given = angle({
			...plan,
			joints: plan.joints.map((j) => ({ ...j, response: { angularChangeRad: (r.angularChangeDeg * Math.PI) / 180 } }))
		});
		expect(free.high - free.low).toBeGreaterThan(1.03 * (given.high - given.low));
		const held = angle({ ...plan, holdDowns: [usualBar(plan.joints[0], 'b')] });
		expect(Math.abs(held.predicted)).toBeLessThan(0.5 * Math.abs(free.predicted));
	});
});
