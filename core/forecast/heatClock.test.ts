import { describe, expect, it } from 'vitest';
import { arcEnergy } from '../heat/arcEnergy';
import { STILL_AIR } from '../heat/air';
import { findMaterial } from '../materials/grades';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { make } from '../weldout/testing';
import { heatClock } from './heatClock';
import { schedule, settingsOf } from './schedule';

const plan = make('open-trough');
const mesh = assemblyMesh(plan);
const planned = schedule(plan, mesh);
/** the first runs of the plan, laid at the plan's own times: when each arc went out */
const asPlanned = (count: number, shiftS = 0): number[] => planned.runs.slice(0, count).map((r) => r.startS + r.arcS + shiftS);

describe('the clock of the heat that was really put in', () => {
	it('laid at the plan’s own times it says what the assembly’s heat model says, to rounding', () => {
		for (const count of [1, 3, 7]) {
			const clock = heatClock(plan, mesh, asPlanned(count), plan.runs[count].id);
			expect(clock.readyS).toBeCloseTo(planned.runs[count].startS, 6);
			expect(clock).toMatchObject({ ratio: 1, bunched: [], isLimitReached: true });
		}
		const all = heatClock(plan, mesh, asPlanned(plan.runs.length));
		expect(all.coolS).toBeCloseTo(planned.totalS + planned.coolToMeasureS, 6);
		// off the clamps before it is measured, filled after, and never within the hour
		expect(all.unclampS).toBeLessThan(all.coolS);
		expect(all.unclampS).toBeGreaterThan(planned.totalS);
		expect(all.fillS).toBeGreaterThanOrEqual(Math.max(all.coolS, planned.totalS + 3600 - 1e-6));
	});
	it('the piece’s own clock may begin anywhere', () => {
		expect(heatClock(plan, mesh, asPlanned(3, 5000), plan.runs[3].id).readyS! - 5000).toBeCloseTo(planned.runs[3].startS, 6);
	});
	it('coffee is a wait: ten minutes late, the next run may be laid at once', () => {
		const wait = planned.runs.findIndex((r) => r.waitS > 30);
		const laid = asPlanned(wait);
		const { readyS } = heatClock(plan, mesh, laid, plan.runs[wait].id);
		const late = laid.map((l, i) => (i === wait - 1 ? l : l - 600));
		const after = heatClock(plan, mesh, late, plan.runs[wait].id);
		expect(readyS! - laid[wait - 1]).toBeGreaterThan(30);
		// what was laid ten minutes before has gone into the piece and the air
		expect(after.readyS!).toBeLessThanOrEqual(readyS!);
		expect(laid[wait - 1] + 600).toBeGreaterThan(readyS!);
	});
	it('small, thick and cold everywhere alike, it cools as Newton’s law has it by hand', () => {
		// two sheets of 60 x 60 x 4: C dT/dt = -h A T after the heat has spread, T = E / C exp(-h A t / C)
		const block = make('butt-panel', { lengthMm: 60, widthsMm: [60, 60], thicknessMm: 4 });
		const run = { ...block.runs[0], fromMm: 0, toMm: 60 };
		block.runs = [run];
		const settings = settingsOf(block, run);
		const area = block.parts.reduce((sum, p) => sum + (Math.max(...p.outline.map((q) => q[0])) - Math.min(...p.outline.map((q) => q[0]))) * 60, 0);
		const { rhoC } = findMaterial(block.parts[0].material, block.materials).responsePair;
		const [capacity, loss] = [rhoC * area * 4, 2 * STILL_AIR * area];
		const hand = (capacity / loss) * Math.log((arcEnergy(settings).netHeat * 60) / (capacity * 10));
		const { coolS } = heatClock(block, assemblyMesh(block), [60 / settings.speedMmPerS]);
		expect((coolS - 60 / settings.speedMmPerS) / hand).toBeGreaterThan(0.93);
		expect((coolS - 60 / settings.speedMmPerS) / hand).toBeLessThan(1.07);
	});
	it('a thermometer’s word goes before the model’s: half the rise, ready sooner; as warm as it says, the same', () => {
		const wait = planned.runs.findIndex((r) => r.waitS > 30);
		const laid = asPlanned(wait);
		const ended = laid[wait - 1];
		const next = plan.runs[wait].id;
		const plain = heatClock(plan, mesh, laid, next);
		const atS = ended + 20;
		const by = (metalC: number) => heatClock(plan, mesh, laid, next, { atS, metalC });
		const hot = by(300);
		const model = plan.ambientC + (300 - plan.ambientC) / hot.ratio;
		expect(by(model).ratio).toBeCloseTo(1, 9);
		expect(by(model).readyS).toBeCloseTo(plain.readyS!, 6);
		const cooler = by(plan.ambientC + (model - plan.ambientC) / 2);
		expect(cooler.ratio).toBeCloseTo(0.5, 9);
		expect(cooler.readyS!).toBeLessThan(plain.readyS!);
		expect(by(plan.ambientC + 2 * (model - plan.ambientC)).readyS!).toBeGreaterThan(plain.readyS!);
		// at the limit or below it is ready when it was read
		expect(by(plan.interpassLimitC).readyS).toBe(atS);
		// a reading from before the last arc says nothing about it
		expect(heatClock(plan, mesh, laid, next, { atS: ended - 1, metalC: 20 }).readyS).toBe(plain.readyS);
	});
	it('nothing laid is cold; taps closer together than their arcs are named and taken one after the other', () => {
		expect(heatClock(plan, mesh, [], plan.runs[0].id)).toEqual({
			readyS: 0,
			coolS: 0,
			unclampS: 0,
			fillS: 0,
			ratio: 1,
			bunched: [],
			isLimitReached: true
		});
		const rushed = [100, 101, 102];
		const clock = heatClock(plan, mesh, rushed, plan.runs[3].id);
		expect(clock.bunched).toEqual([plan.runs[0].id, plan.runs[1].id]);
		expect(Number.isFinite(clock.readyS) && clock.readyS! > 102).toBe(true);
	});
	it('a fan counts from its tap: three times the film shortens what is left of a lump’s cooling to a third (Newton), by the hand’s figures', () => {
		// as above, a plate that is one temperature all over: at the tap its rise is R, in still air tau ln(R / 10) is left, under the fan a third
		const block = make('butt-panel', { lengthMm: 60, widthsMm: [60, 60], thicknessMm: 4 });
		block.runs = [{ ...block.runs[0], fromMm: 0, toMm: 60 }];
		const lump = assemblyMesh(block);
		const still = heatClock(block, lump, [30]).coolS;
		const tap = 30 + (still - 30) / 2;
		const fanned = heatClock(block, lump, [30], undefined, undefined, [tap]).coolS;
		expect((fanned - tap) / ((still - tap) / 3)).toBeGreaterThan(0.93);
		expect((fanned - tap) / ((still - tap) / 3)).toBeLessThan(1.07);
		// a second tap changes nothing; one before the arc that is out, or when all is cold, neither
		expect(heatClock(block, lump, [30], undefined, undefined, [tap, tap + 20]).coolS).toBe(fanned);
		expect(heatClock(block, lump, [30], undefined, undefined, [5, still + 100]).coolS).toBeCloseTo(still, 6);
	});
	it('a fan in the wait before the last arc is in what that arc left, and the next run is ready sooner with one now', () => {
		const wait = planned.runs.findIndex((r) => r.waitS > 30);
		// three minutes lie between the run before and the last one
		const laid = asPlanned(wait + 1).map((l, i) => (i === wait ? l + 180 : l));
		const next = plan.runs[wait].id;
		const still = heatClock(plan, mesh, laid, next);
		const before = heatClock(plan, mesh, laid, next, undefined, [laid[wait - 1] + 1]);
		const now = heatClock(plan, mesh, laid, next, undefined, [laid[wait] + 1]);
		expect(before.coolS).toBeLessThan(still.coolS);
		expect(now.coolS).toBeLessThan(before.coolS);
		expect(now.readyS!).toBeLessThan(still.readyS!);
	});
});
