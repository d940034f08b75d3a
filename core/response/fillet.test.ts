import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { arcEnergy } from '../heat/arcEnergy';
import { findMaterial } from '../materials/grades';
import { adviseSettings } from './settingsAdvice';
import { heatForLeg, largestLeg, MELTING_SHARE } from './fillet';
import { weldResponse } from './weldResponse';

const steel = findMaterial('1.4301');
const base = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], thicknessMm: 1.5 }).plan!;
const sheets = [0, 1].map((i) => ({ material: steel, thicknessMm: 1.5, widthMm: 120, isFace: i === 0 }));
const tee = (weldSizeMm: number) => ({ ...base.joints[0], type: 'tee' as const, filler: true, penetration: 'sealing' as const, weldSizeMm });

describe('a fillet of filler', () => {
	const as = [2, 4, 5].map((leg) => {
		const joint = tee(leg);
		const { settings } = adviseSettings(joint, sheets, base.settings[0], 20);
		expect(arcEnergy(settings).netHeat).toBeGreaterThan(0.999 * heatForLeg(leg, steel));
		return weldResponse({ joint, settings, sheets, ambientC: 20 });
	});
	it.each([
		['1.4301', 1450],
		['6061', 650],
		['S235', 1510]
	])(
		'%s takes about (T + 273)^2 / 300 000 J/mm3 to melt (AWS Welding Handbook vol. 1, from memory; T %d °C: a round formula), within a fifth',
		(id, meltC) => {
			const perMm3 = 2 * heatForLeg(1, findMaterial(id)) * MELTING_SHARE;
			expect(Math.abs(perMm3 / ((meltC + 273) ** 2 / 300_000) - 1)).toBeLessThan(0.2);
		}
	);
	it('what a heat can lay is what takes that heat', () => {
		expect(heatForLeg(largestLeg(120, steel), steel)).toBeCloseTo(120, 9);
	});
	it('a leg that this arc cannot melt is named, with what it can', () => {
		const of = (leg: number) => weldResponse({ joint: tee(leg), settings: base.settings[0], sheets, ambientC: 20 }).warnings.join(' ');
		const most = largestLeg(arcEnergy(base.settings[0]).netHeat, steel);
		expect(of(0.95 * most)).not.toMatch(/of filler/);
		expect(of(1.2 * most)).toMatch(new RegExp(`it lays ${most.toFixed(1)} mm at most`));
	});
	it('a heavier leg, welded as is advised for it, pulls and shrinks more (common practice, no source)', () => {
		for (let i = 1; i < as.length; i++) {
			expect(as[i].tendonForceN).toBeGreaterThan(1.1 * as[i - 1].tendonForceN);
			expect(as[i].transverseShrinkageMm).toBeGreaterThan(1.1 * as[i - 1].transverseShrinkageMm);
		}
	});
	it('a weld on a face widens what is known of its turn until two tees in solid elements lie inside 90 %; one at an edge does not', () => {
		const of = (heat: number, flat = false) => {
			const joint = { ...tee(2), ...(flat ? { type: 'butt' as const } : {}) };
			const s = sheets.map((x) => ({ ...x, isFace: x.isFace && !flat }));
			return weldResponse({
				joint,
				settings: { ...base.settings[0], speedMmPerS: (base.settings[0].speedMmPerS * arcEnergy(base.settings[0]).netHeat) / heat },
				sheets: s,
				ambientC: 20
			});
		};
		const solid = JSON.parse(readFileSync('tests/verification/coupons.json', 'utf8')) as Record<string, { turnDeg: number }>;
		const r = of(160);
		const widest = ((r.angularChangeRad + r.facePushRad + 1.645 * r.faceTurnSpreadRad) * 180) / Math.PI;
		for (const id of ['tee', 'tee-leg']) expect(widest, id).toBeGreaterThan(solid[id].turnDeg - 0.05);
		expect(of(80).faceTurnSpreadRad).toBeCloseTo(r.faceTurnSpreadRad / 2, 4);
		expect(of(160, true).faceTurnSpreadRad).toBe(0);
	});
	it('and turns it more (common practice, no source)', () => {
		const turn = (r: (typeof as)[number]) => r.angularChangeRad + r.facePushRad;
		for (let i = 1; i < as.length; i++) expect(turn(as[i])).toBeGreaterThan(turn(as[i - 1]));
	});
	it('one that is heavy for the sheet is said to be', () => {
		expect(adviseSettings(tee(8), sheets, base.settings[0], 20).cautions.join(' ')).toMatch(/8 mm is heavy for 1.5 mm sheet/);
	});
});
