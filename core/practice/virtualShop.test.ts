import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { kernelFactory } from '../linalg/kernel/kernel';
import { newPlan } from '../families/newPlan';
import { DEMO_SHOP, hiddenShop, VirtualPiece } from './virtualShop';

const plan = { ...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!, meshSizeMm: 30 };
const weld = (seed: number, shop = DEMO_SHOP) => new VirtualPiece(plan, shop, { seed, depth: 'quick', kernel: kernelFactory(WebAssembly) });
const measured = (seed: number) => {
	const piece = weld(seed);
	return plan.features.map((f) => piece.read(f, 'unclamped'));
};

describe('the virtual shop', () => {
	it('the same seed gives the same readings, another seed others', () => {
		expect(measured(3)).toEqual(measured(3));
		expect(measured(3)).not.toEqual(measured(4));
	});
	it('no two pieces are alike, and none is what the plan with its factors would be: that the learner could have known', () => {
		const length = plan.features.find((f) => f.kind === 'length')!;
		const values = [1, 2, 3, 4].map((seed) => weld(seed).trueValue(length, 'unclamped'));
		expect(new Set(values.map((v) => v.toFixed(4))).size).toBe(4);
		// a steady hand and a tight gap: all alike
		const steady = { ...DEMO_SHOP, habit: 0, throughTheDay: 0, gapMm: 0 };
		expect(weld(1, steady).trueValue(length, 'unclamped')).toBeCloseTo(weld(2, steady).trueValue(length, 'unclamped'), 9);
	});
	it('shops differ as widely as the prior has it, and are drawn the same each time', () => {
		expect(hiddenShop(5)).toEqual(hiddenShop(5));
		const logs = Array.from({ length: 400 }, (_, i) => Math.log(hiddenShop(1000 + i).shrinkage));
		const sd = Math.sqrt(logs.reduce((s, v) => s + v * v, 0) / logs.length);
		// times or divided by 1.5 at 90 %
		expect(sd).toBeGreaterThan(0.85 * (Math.log(1.5) / 1.645));
		expect(sd).toBeLessThan(1.15 * (Math.log(1.5) / 1.645));
	});
	it('now and then a tape is read in inches', () => {
		const length = plan.features.find((f) => f.kind === 'length')!;
		const [right] = weld(8).read(length, 'unclamped').readings;
		const [wrong] = weld(8, { ...DEMO_SHOP, inches: 1 }).read(length, 'unclamped').readings;
		expect(right / wrong).toBeCloseTo(25.4, 0);
	});
});
