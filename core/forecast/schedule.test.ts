import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { arcEnergy } from '../heat/arcEnergy';
import { assemblyMesh } from '../mesh/assemblyMesh';
import type { Bar, PlanDocument } from '../document/schema';
import { MEASURE_ABOVE_AIR, schedule, settingsOf } from './schedule';

const panel = (): PlanDocument => ({
	...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm: 300 }).plan!,
	meshSizeMm: 15
});
const of = (plan: PlanDocument) => schedule(plan, assemblyMesh(plan));
const bar = (change: Partial<Bar> = {}): Bar => ({
	id: 'bar',
	name: 'Bar',
	kind: 'bar',
	joint: 's1',
	fromMm: 0,
	toMm: 300,
	material: 'copper',
	widthMm: 40,
	thicknessMm: 10,
	contact: 'tight',
	life: { on: 'start', off: 'when-cold' },
	...change
});

describe('heat through a weld-out', () => {
	it('arc time is length over speed; heat in is stored and lost within 0.5 %', () => {
		const plan = panel();
		const s = of(plan);
		expect(s.arcS).toBeCloseTo(
			plan.runs.reduce((t, r) => t + Math.abs(r.toMm - r.fromMm) / settingsOf(plan, r).speedMmPerS, 0),
			6
		);
		expect(s.energyError).toBeLessThan(5e-3);
		expect(s.runs.map((r) => r.run)).toEqual(plan.runs.map((r) => r.id));
	});
	it('no run starts above the interpass limit; a lower limit waits longer', () => {
		const at = (limit: number) => of({ ...panel(), interpassLimitC: limit });
		for (const limit of [50, 90, 150]) for (const r of at(limit).runs) expect(r.hottestC).toBeLessThanOrEqual(limit + 1e-6);
		const wait = (limit: number) => at(limit).runs.reduce((t, r) => t + r.waitS, 0);
		expect(wait(50)).toBeGreaterThan(wait(90));
	});
	it('a wait that is set is kept, whatever the metal does', () => {
		const plan = panel();
		plan.runs[2] = { ...plan.runs[2], waitBeforeS: 77 };
		expect(of(plan).runs[2].waitS).toBeCloseTo(77, 9);
	});
	it('at the end every place is within ten degrees of the air', () => {
		const plan = panel();
		const s = of(plan);
		expect(s.curve.hottest[s.curve.hottest.length - 1]).toBeLessThanOrEqual(plan.ambientC + MEASURE_ABOVE_AIR + 1e-6);
		expect(s.coolToMeasureS).toBeGreaterThan(60);
		expect(s.curve.times.every((t, i) => i === 0 || t >= s.curve.times[i - 1])).toBe(true);
	});
	it('after the last arc the mean rise is the heat given over the heat capacity, less what was lost', () => {
		// still air switched off is not to be had; a quick weld loses little: one run, looked at when it ends
		const plan = panel();
		plan.runs = plan.runs.slice(0, 1);
		const mesh = assemblyMesh(plan);
		const s = schedule(plan, mesh);
		const given = arcEnergy(settingsOf(plan, plan.runs[0])).netHeat * Math.abs(plan.runs[0].toMm - plan.runs[0].fromMm);
		const capacity = 300 * 300 * plan.parts[0].thicknessMm * 7900e-9 * 560;
		// the hottest place is above the mean, and the whole of it is far below the pool
		expect(Math.max(...s.curve.hottest) - 20).toBeGreaterThan(given / capacity);
		expect(s.energyError).toBeLessThan(5e-3);
	});
	it('a bar warms run after run; a bigger one less; the sheet stays cooler on it (common practice, no source)', () => {
		const plan = panel();
		const [none, small, big] = [[], [bar({ thicknessMm: 4 })], [bar({ thicknessMm: 20 })]].map((holdDowns) =>
			of({ ...plan, holdDowns, interpassLimitC: 400 })
		);
		expect(small.bars[0].peakC).toBeGreaterThan(big.bars[0].peakC);
		expect(big.bars[0].peakC).toBeGreaterThan(plan.ambientC + 5);
		const hottest = (s: typeof none) => Math.max(...s.runs.map((r) => r.hottestC));
		expect(hottest(big)).toBeLessThan(hottest(none));
		// at the end of its life the bar is warmer than at the first run's end
		const warm = small.bars[0].temperatures;
		const at = (t: number) => warm[small.curve.times.findIndex((x) => x >= t)];
		expect(at(small.totalS - 1)).toBeGreaterThan(at(small.runs[0].arcS));
	});
	it('a limit at the air’s own temperature is never reached, and that is said', () => {
		const plan = { ...panel(), interpassLimitC: 20, ambientC: 20 };
		plan.runs = plan.runs.slice(0, 2);
		expect(of(plan).tooHot.length).toBeGreaterThan(0);
	});
	it('nothing to weld: no time, no heat', () => {
		const s = of({ ...panel(), runs: [] });
		expect([s.arcS, s.totalS, s.coolToMeasureS, s.energyError]).toEqual([0, 0, 0, 0]);
	});
});
