/** How a preset is set at the bench: by how much, where, which way; and that it reaches the bench at all. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { benchPlan } from './benchPlan';
import { HOLDS, holdKind, holdWords } from '../holds';
import { forecast } from '../forecast/forecast';
import { presetSetting, presetWords, shimFor } from './preset';

const mm = (v: number) => `${v.toFixed(1)} mm`;
const panel = () => newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'] }).plan!;

describe('a preset', () => {
	it('1.5 degrees over 150 mm is a shim of 3.93 mm (sine, worked by hand)', () => expect(shimFor(1.5, 150)).toBeCloseTo(3.927, 3));
	it('is measured on the part: no farther from the seam than the sheet reaches', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [200, 60] }).plan!;
		plan.joints[0].presetDeg = 2;
		const s = presetSetting(plan, plan.joints[0])!;
		expect(s.reachMm).toBeCloseTo(60, 6);
		expect(s.shimMm).toBeCloseTo(60 * Math.sin((2 * Math.PI) / 180), 9);
	});
	it('opens or closes the welded side, and says so', () => {
		const plan = panel();
		for (const [deg, word] of [
			[2, /^Open it 2°/],
			[-3, /^Close it 3°/]
		] as const) {
			plan.joints[0].presetDeg = deg;
			expect(presetWords(presetSetting(plan, plan.joints[0])!, mm)).toMatch(word);
		}
		plan.joints[0].presetDeg = 0;
		expect(presetSetting(plan, plan.joints[0])).toBeUndefined();
	});
	it('of a corner says what a square reads inside it, as the forecast has it', () => {
		const plan = newPlan('corner-panel', FAMILY_DEFAULTS['corner-panel']).plan!;
		const angle = (presetDeg: number, weldSide: 'front' | 'back') => {
			const joints = plan.joints.map((j) => ({ ...j, presetDeg, weldSide, response: { tendonForceN: 0, angularChangeRad: 0 } }));
			return forecast({ ...plan, joints }).result.features.find((f) => f.kind === 'angle')!.predicted;
		};
		for (const weldSide of ['front', 'back'] as const)
			for (const presetDeg of [1.5, -1.5]) {
				const s = presetSetting(plan, { ...plan.joints[0], presetDeg, weldSide })!;
				expect(angle(presetDeg, weldSide) - angle(0, weldSide)).toBeCloseTo(s.insideDeg!, 1);
				expect(presetWords(s, mm)).toContain(`a square then reads 1.5° ${s.insideDeg! > 0 ? 'more' : 'less'} than drawn`);
			}
	});
});

describe('what is planned reaches the bench', () => {
	it('a preset is a step of its own, before the first tack', () => {
		const plan = panel();
		plan.joints[0].presetDeg = 1.5;
		const steps = benchPlan(plan).steps;
		const at = steps.findIndex((s) => s.kind === 'preset');
		expect(steps[at]).toMatchObject({ joint: plan.joints[0].id, setting: { deg: 1.5, isOpened: true } });
		expect(at).toBeLessThan(steps.findIndex((s) => s.kind === 'tack'));
		expect(benchPlan(panel()).steps.some((s) => s.kind === 'preset')).toBe(false);
	});
	it('a hold-down says where it goes: seam and station, or part and place', () => {
		const plan = panel();
		const words = holdWords(plan, mm);
		const life = { on: 'start', off: 'when-cold' };
		const joint = plan.joints[0];
		expect(
			HOLDS.clamp.where(
				{ id: 'c', name: 'Clamp', kind: 'clamp', life, joint: joint.id, stationMm: 120, holds: 'normal', stiffnessNPerMm: 5000 },
				words
			)
		).toBe(`${joint.name}, at 120.0 mm from its datum end`);
		const tack = {
			id: 't',
			name: 'Tack',
			kind: 'table-tack' as const,
			life,
			part: plan.parts[1].id,
			at: [30, 45] as [number, number],
			stiffnessNPerMm: 5e4
		};
		expect(holdKind(tack).where(tack, words)).toBe(`${plan.parts[1].name}, at 30.0 mm across and 45.0 mm up its flat layout`);
	});
});
