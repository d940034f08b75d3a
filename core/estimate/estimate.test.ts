import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { priorFactors } from '../factors/factors';
import { kernelFactory } from '../linalg/kernel/kernel';
import { coolBefore } from '../schools/orderEdit';
import { schedule } from '../forecast/schedule';
import { chanceOutside, DEFAULT_QUOTE, estimate, fillerArea } from './estimate';
import { fillWaits } from './fillWaits';
import { whatWaitingBuys } from './waiting';

const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80, rimFlangeMm: 0 }).plan!;
plan.meshSizeMm = 25;
const cache = new ForecastCache(kernelFactory(WebAssembly));
const quick = forecast(plan, { cache });
const heat = quick.heat();
const { features } = quick.result;

describe('estimate', () => {
	it('adds up by hand: arc from lengths and speed, gas from flows, money from rates', () => {
		const e = estimate(plan, heat, quick.result, 3, 4);
		const length = plan.runs.reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
		expect(e.arcS).toBeCloseTo(length / 2.5, 3);
		expect(e.flipS).toBe(180);
		expect(e.arcS + e.tackS + e.betweenS + e.waitS + e.flipS + e.fitUpS + e.reworkS).toBeCloseTo(e.benchS, 6);
		// 8 L/min through arc, 0.5 s before and 6 s after each run; 2 s a tack
		const runs = (8 * (e.arcS + plan.runs.length * 6.5)) / 60;
		expect(e.gasL).toBeCloseTo(runs + (8 * plan.tacks.length * 8.5) / 60, 6);
		expect(e.batch.benchS).toBeCloseTo(4 * e.benchS + 30 * 60, 6);
		expect(e.cost).toBeUndefined();
		const priced = estimate({ ...plan, quote: { ...DEFAULT_QUOTE, hourRate: 60, gasPerL: 0.02, fillerPerKg: 30 } }, heat, quick.result, 3, 4);
		expect(priced.cost!.labour).toBeCloseTo(priced.benchS / 60, 6);
		expect(priced.batch.total).toBeCloseTo(priced.batch.benchS / 60 + 0.02 * priced.batch.gasL + 0.03 * priced.batch.fillerG, 6);
	});
	it('filler: a fillet of leg 3 is 4.5 mm2; a fused seam takes none', () => {
		const joint = { ...plan.joints[0], type: 'tee' as const, filler: true, weldSizeMm: 3, gapMm: 0 };
		expect(fillerArea(joint, 1.5)).toBeCloseTo(4.5, 9);
		expect(fillerArea({ ...joint, filler: false }, 1.5)).toBe(0);
	});
	/** features whose 90 % band is this wide each way, allowed so far each way */
	const chance = (list: { predicted?: number; upper: number; lower?: number }[], correlation: number[]) =>
		chanceOutside(
			list.map(({ predicted = 0, upper, lower }) => ({
				predicted,
				low: predicted - 1.645,
				high: predicted + 1.645,
				tolerance: { upper, lower, source: 'typed' }
			})),
			correlation
		);
	it('one feature: the normal distribution (Abramowitz & Stegun table 26.1): 0.05 beyond 1.96 either way, 0.1587 above 1', () => {
		expect(chance([{ upper: 1.96, lower: -1.96 }], [1])).toBeCloseTo(0.05, 2);
		expect(chance([{ upper: 1 }], [1])).toBeCloseTo(0.1587, 2);
		expect(chance([{ predicted: 5, upper: 5 }], [1])).toBeCloseTo(0.5, 1);
	});
	it('several: as many chances as there are features where they err alone, one where they err as one', () => {
		const three = [1, 1, 1].map((upper) => ({ upper }));
		expect(chance(three, [1, 0, 0, 0, 1, 0, 0, 0, 1])).toBeCloseTo(1 - (1 - 0.1587) ** 3, 2);
		expect(chance(three, new Array<number>(9).fill(1))).toBeCloseTo(0.1587, 2);
	});
	it.each([-0.8, -0.3, 0.5, 0.9])('two that err together by %d: 3/4 - asin(r) / 2 pi that one at least is above its middle (Sheppard 1899)', (r) =>
		expect(chance([{ upper: 0 }, { upper: 0 }], [1, r, r, 1])).toBeCloseTo(0.75 - Math.asin(r) / (2 * Math.PI), 2)
	);
	it('how features err together comes with the forecast: symmetric, one with itself, and as the draws have it', () => {
		const { correlation } = quick.result;
		const n = features.length;
		expect(correlation).toHaveLength(n * n);
		for (let i = 0; i < n; i++)
			for (let j = 0; j < n; j++) {
				expect(Math.abs(correlation[i * n + j])).toBeLessThanOrEqual(1 + 1e-12);
				expect(correlation[i * n + j]).toBeCloseTo(correlation[j * n + i], 12);
			}
		for (let i = 0; i < n; i++) expect(correlation[i * n + i]).toBe(1);
		// the mouth's width and the length along the front shrink by the same shop factor
		expect(Math.max(...correlation.filter((_, k) => Math.floor(k / n) !== k % n).map(Math.abs))).toBeGreaterThan(0.3);
	});
	it('rework follows the bands: none where they lie well inside, all but certain where one lies outside', () => {
		const at = (predicted: number) =>
			features.map((f) => ({ ...f, predicted, low: predicted - 0.01, high: predicted + 0.01, tolerance: { upper: 1, lower: -1, source: 'typed' } }));
		expect(estimate(plan, heat, { ...quick.result, features: at(0) }, 0, 1).reworkChance).toBeLessThan(1e-6);
		expect(estimate(plan, heat, { ...quick.result, features: at(3) }, 0, 1).reworkChance).toBeGreaterThan(0.999);
	});
});

describe('what waiting buys', () => {
	it('a lower ceiling never waits less', () => {
		const rows = whatWaitingBuys(plan, priorFactors(), cache);
		expect(rows.some((r) => r.isPlan)).toBe(true);
		rows.slice(1).forEach((r, i) => expect(r.waitS).toBeLessThanOrEqual(rows[i].waitS + 1e-6));
		for (const r of rows) for (const v of r.values) expect(Number.isFinite(v)).toBe(true);
	});
	it('a fan shortens the waits, cold air on the spot too', () => {
		const mesh = quick.analysis.mesh;
		const waits = (p: typeof plan) => schedule({ ...p, interpassLimitC: 80 }, mesh).runs.reduce((s, r) => s + r.waitS, 0);
		const all = new Set(plan.runs.map((r) => r.id));
		const still = waits(plan);
		expect(still).toBeGreaterThan(60);
		const fan = waits({ ...plan, runs: coolBefore(plan.runs, all, 'fan') });
		const local = waits({ ...plan, runs: coolBefore(plan.runs, all, 'local') });
		expect(fan).toBeLessThan(0.9 * still);
		expect(local).toBeLessThan(still);
	});
	it('other pieces’ runs fill the waits in order and only while they fit', () => {
		const others = [
			{
				label: 'X',
				runs: [
					{ name: 'x1', arcS: 30 },
					{ name: 'x2', arcS: 500 }
				]
			},
			{ label: 'Y', runs: [{ name: 'y1', arcS: 20 }] }
		];
		const out = fillWaits([10, 120, 70], others);
		expect(out.map((w) => w.before)).toEqual([2, 3]);
		expect(out[0].fits.map((f) => f.run)).toEqual(['x1', 'y1']);
		expect(out[0].leftS).toBeCloseTo(120 - 20 - 45 - 35, 6);
		expect(out[1].fits).toEqual([]);
	});
});
