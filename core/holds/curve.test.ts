import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { curveOf, shapeWords, standsOff } from './curve';

const mm = (v: number) => `${v.toFixed(1)} mm`;
const shell = newPlan('cylinder', { ...FAMILY_DEFAULTS.cylinder, diameterMm: 236, thicknessMm: 1.5, bottom: 'flat' }).plan!;
const seam = (name: RegExp) => shell.joints.find((j) => !j.stock && name.test(j.name))!;

describe('a bar behind a rolled wall', () => {
	it('stands off by the sagitta of its width: 40 mm on R 116.5 by 1.73 mm (geometry)', () => {
		expect(standsOff(40, 116.5)).toBeCloseTo(116.5 - Math.sqrt(116.5 ** 2 - 20 ** 2), 12);
		expect(standsOff(40, 116.5)).toBeCloseTo(1.73, 2);
		expect(standsOff(500, 116.5)).toBe(116.5);
	});
	it('along the axis it is shaped, round it is bent to a ring, a narrow one and one on a flat wall fit as they are', () => {
		const long = curveOf(seam(/Long/), shell.parts)!;
		expect(long).toMatchObject({ runs: 'along' });
		expect(long.radiusMm).toBeCloseTo(118 - 1.5, 6);
		expect(shapeWords(40, long, mm)).toBe(', its face shaped to R 116.5 mm (flat it stands 1.7 mm off at the seam)');
		expect(shapeWords(8, long, mm)).toBe('');
		expect(shapeWords(20, curveOf(seam(/end/i), shell.parts), mm)).toMatch(/bent to a ring/);
		const flat = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'] }).plan!;
		expect(curveOf(flat.joints[0], flat.parts)).toBeUndefined();
		expect(shapeWords(40, undefined, mm)).toBe('');
	});
});
