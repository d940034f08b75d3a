import { describe, expect, it } from 'vitest';
import { make } from '$core/weldout/testing';
import { benchPlan } from '$core/weldout/benchPlan';
import { HAPPENING, HAPPENINGS, type DataField } from '$core/weldout/happenings';
import { everything } from '$core/weldout/testing';
import { filledFrom, readTyped } from './typed';

const plan = make('open-trough');
const [run] = plan.runs;
const step = `run:${run.id}`;
const read = (what: Parameters<typeof readTyped>[1], text: Parameters<typeof readTyped>[2], unit: 'mm' | 'in' = 'mm') =>
	readTyped('happened', what, text, step, plan, unit);

describe('what is typed at the bench', () => {
	it('is read in the person’s unit, fractions too, and kept in mm', () => {
		expect(read('pinhole', { joint: run.joint, stationMm: '12,5' }).data).toEqual({ what: 'pinhole', joint: run.joint, stationMm: 12.5 });
		expect(read('pinhole', { joint: run.joint, stationMm: '1/2' }, 'in').data!.stationMm).toBeCloseTo(12.7, 9);
		expect(read('as-set', { currentA: '71,5', speedMmPerS: '' }).data).toEqual({ what: 'as-set', currentA: 71.5 });
	});
	it('is refused here as the server would: beyond the seam, out of range, missing, no number', () => {
		for (const [what, text, words] of [
			['pinhole', { joint: run.joint, stationMm: '9000' }, /^Station: must lie on the seam/],
			['pinhole', { joint: run.joint, stationMm: '-3' }, /^Station/],
			['pinhole', { joint: run.joint }, /^Station: must be given/],
			['metal', { metalC: '5000' }, /^Metal, °C: must be at most 1500/],
			['metal', { metalC: 'hot' }, /^Metal, °C: “hot” is not a number/],
			['as-set', {}, /^Current, A: give the current or the speed/]
		] as const) {
			const typed = read(what, text);
			expect(typed.faults.join(), JSON.stringify(text)).toMatch(words);
			expect(typed.data).toBeUndefined();
		}
		expect(readTyped('laid', undefined, { fromMm: '5', toMm: '5' }, step, plan, 'mm').faults.join()).toMatch(/must differ/);
	});
	it('whatever went otherwise can be logged at any kind of step, from what the step says and what must be given', () => {
		const { steps } = benchPlan(everything());
		const all = everything();
		const given: Partial<Record<DataField, string>> = {
			stationMm: '1',
			mm: '1',
			metalC: '60',
			filler: '308L',
			currentA: '60',
			part: all.parts[0].id,
			way: 'pressed',
			surface: 'sugar',
			leak: 'tight'
		};
		const kinds = [...new Map(steps.map((s) => [s.kind, s])).values()];
		expect(kinds.length).toBeGreaterThan(8);
		for (const s of kinds)
			for (const what of HAPPENINGS) {
				const text = filledFrom(what, s);
				const fields = what === 'as-set' ? (['currentA'] as const) : HAPPENING[what].must;
				for (const f of fields) text[f] ??= f === 'joint' ? all.joints.find((j) => !j.stock)!.id : f === 'holdDown' ? all.holdDowns[0].id : given[f];
				expect(readTyped('happened', what, text, s.id, all, 'mm').faults, `${what} at ${s.kind}`).toEqual([]);
			}
	});
});
