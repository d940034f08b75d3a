import { describe, expect, it } from 'vitest';
import { exampleJobs } from '../../cli/exampleJobs';
import { readingContext } from './context';
import { coldValue, growthOf } from './warm';

const plan = exampleJobs().find((e) => e.file === 'trough.json')!.plan;
const width = plan.features.find((f) => f.kind === 'length')!;
const nominal = readingContext(width, plan).nominal!;

describe('a length read warm', () => {
	it('1.4301 grows by 16.0e-6 for each K up to 100 °C (EN 10088-1, from memory), within 5 %', () => {
		expect(plan.parts[0].material).toBe('1.4301');
		expect(Math.abs(growthOf(width, plan)! / (16e-6 * nominal) - 1)).toBeLessThan(0.05);
	});
	it('aluminium grows by 23.4e-6 (handbook value of 6061, from memory), within 5 %', () => {
		const light = { ...plan, parts: plan.parts.map((p) => ({ ...p, material: '6061' })) };
		expect(Math.abs(growthOf(width, light)! / (23.4e-6 * nominal) - 1)).toBeLessThan(0.05);
	});
	it('cold it is shorter by that, and less sure', () => {
		const cold = coldValue(0.4, 0.01, 60, 20)!;
		expect(cold.value).toBeCloseTo(0, 9);
		expect(cold.spread90).toBeCloseTo(0.2, 9);
		// colder than the workshop: longer when it has warmed
		expect(coldValue(0, 0.01, 0, 20)!.value).toBeCloseTo(0.2, 9);
	});
	it('of an angle or a form, and of metal that still glows off heat, nothing is said', () => {
		expect(
			growthOf(
				plan.features.find((f) => f.kind === 'angle' || f.kind === 'flatness')!,
				plan
			)
		).toBeUndefined();
		expect(coldValue(0.4, undefined, 60, 20)).toBeUndefined();
		expect(coldValue(0.4, 0.01, 400, 20)).toBeUndefined();
	});
});
