/** Slow pulses: their power by hand, their heat in all, and that quick ones come to their mean. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { findMaterial } from '../materials/grades';
import { marchSeam } from './march';
import { arcMetal } from './metal';
import { hotSeamOf } from './ofPlan';
import { powerOver, pulseOf, type Pulse } from './pulse';
import { meanOver, stationsOf } from './results';
import { burningSteps, ORDINARY_ARC, type HotSeam } from './seam';

const kernel = kernelFactory(WebAssembly);
const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm: 200 }).plan!;
const [settings] = plan.settings;
const pulsed = (pulsesPerSecond: number) => ({
	...settings,
	current: 'pulsed' as const,
	ampsA: 80,
	backgroundA: 20,
	onFraction: 0.25,
	pulsesPerSecond
});

describe('a pulse', () => {
	// 80 A a quarter of the time and 20 A the rest: 35 A on average
	const p = pulseOf(pulsed(1))!;
	it('by hand: peak and background over the mean, whole pulses to one', () => {
		expect([p.periodS, p.onShare]).toEqual([1, 0.25]);
		expect(p.peak).toBeCloseTo(80 / 35, 12);
		expect(powerOver(p, 0, 0.25)).toBeCloseTo(80 / 35, 12);
		expect(powerOver(p, 0.5, 0.75)).toBeCloseTo(20 / 35, 12);
		expect(powerOver(p, 0.125, 0.375)).toBeCloseTo(50 / 35, 12);
		expect(powerOver(p, 3, 7)).toBeCloseTo(1, 12);
		expect(powerOver(p, 0.6, 1.6)).toBeCloseTo(1, 12);
	});
	it('steady current has none, nor have pulses of five a second and more', () => {
		expect(pulseOf(settings)).toBeUndefined();
		expect(pulseOf(pulsed(5))).toBeUndefined();
		expect(pulseOf(pulsed(4.9))).toBeDefined();
	});
});

describe('a seam under slow pulses', () => {
	const seam: HotSeam = {
		lengthMm: 100,
		sheets: [{ widthMm: 50, thicknessMm: 1.5, metal: arcMetal(findMaterial('1.4301')), grips: [] }],
		heat: 130,
		speed: 2.5,
		runs: [{ fromMm: 0, toMm: 100, waitS: 0 }],
		tacks: [],
		welded: [],
		isOnePiece: true,
		gapMm: 0,
		startC: 20,
		ambientC: 20,
		air: 15e-6,
		arc: ORDINARY_ARC,
		mesh: { alongMm: 2.5, stepS: 0.5, firstMm: 1.5 }
	};
	const of = (pulse?: Pulse, stepS = seam.mesh.stepS) => {
		const m = marchSeam({ ...seam, pulse, mesh: { ...seam.mesh, stepS } }, { kernel });
		const s = stationsOf(m);
		const middle = [...s.meltMm].slice(8, -8);
		return {
			given: m.numerics.given,
			isOpen: m.numerics.openSteps > 0 || m.numerics.openHeat > 0,
			steps: m.numerics.steps,
			pull: meanOver(s.middles, s.forceN, 30, 70),
			swing: Math.max(...middle) - Math.min(...middle)
		};
	};
	const steady = of();
	// in the steps of the quick pulses: a pull hangs a little on its steps
	const fine = of(undefined, 0.125);
	const slow = of(pulseOf(pulsed(0.25)));
	const quick = of(pulseOf(pulsed(2)));
	it('takes as much heat as its mean, in steps that follow the pulse, all in balance', () => {
		for (const x of [slow, quick]) expect(x.given).toBeCloseTo(steady.given, 3);
		expect([slow.isOpen, quick.isOpen]).toEqual([false, false]);
		expect(quick.steps).toBeGreaterThan(2 * steady.steps);
	});
	it('slow ones leave a pool that swings along the seam (common practice, no source: the ripples of a pulsed bead); quick ones come to the mean', () => {
		expect(slow.swing).toBeGreaterThan(3 * steady.swing);
		expect(quick.swing).toBeLessThan(slow.swing);
		expect(Math.abs(quick.pull / fine.pull - 1)).toBeLessThan(0.01);
	});
	it('of a plan: followed where they are slow, said where they are quick or too many', () => {
		const words = (pulsesPerSecond: number, lengthMm = 200) => {
			const p = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm }).plan!;
			const { seam: own, notes } = hotSeamOf({ ...p, settings: p.settings.map((s) => ({ ...pulsed(pulsesPerSecond), id: s.id })) }, p.joints[0].id);
			return { pulse: own.pulse, steps: burningSteps(own), said: notes.filter((n) => /pulses/i.test(n)) };
		};
		expect(words(1).pulse).toBeDefined();
		expect(words(1).said).toEqual(['Its slow pulses are followed one by one.']);
		expect(words(100)).toMatchObject({ pulse: undefined, said: ['Pulses as quick as these count as their mean.'] });
		expect(words(4, 1500)).toMatchObject({ pulse: undefined, said: ['Its slow pulses are too many to follow: they count as their mean.'] });
		expect(words(4, 1500).steps).toBeLessThan(4000);
	});
});
