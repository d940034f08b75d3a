/** Which posture a new piece begins in: the sag of a sheet laid over its ends, against what it is judged by. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '.';
import type { FamilyParameters } from './family';
import { newPlan } from './newPlan';
import { sagOfStrip } from './suitablePosture';

const posture = (kind: Parameters<typeof newPlan>[0], sizes: FamilyParameters = {}) =>
	newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...sizes }).plan?.posture;

describe('the posture a new piece begins in', () => {
	it('sag of a steel strip 1000 x 1.5 mm over its ends: 27 mm by the handbook beam, worked by hand', () => {
		// w = 7.9e-6 kg/mm3 x 9.81 x 1.5 = 1.1624e-4 N/mm per mm of width; I = 0.28125 mm4; 5 w L4 / 384 E I = 26.9 mm
		expect(sagOfStrip(1000, 1.5, 7900, 200e3)).toBeCloseTo(26.9, 1);
	});
	it('a wide thin panel stands upright, a small or thick one lies on three points, a box too', () => {
		expect(posture('butt-panel', { lengthMm: 1000, widthsMm: [300, 300], thicknessMm: 1.5 })).toBe('upright');
		expect(posture('butt-panel', { lengthMm: 200, widthsMm: [75, 75], thicknessMm: 3 })).toBe('three-points');
		expect(posture('open-trough')).toBe('three-points');
	});
});
