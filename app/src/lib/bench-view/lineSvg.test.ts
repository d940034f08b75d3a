/** The picture in lines: what stands is on it, from the side that is asked for. */
import { describe, expect, it } from 'vitest';
import { viewOf } from '$core/draw/view';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { lineSvg } from './lineSvg';

const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
const corner = viewOf('top', 0);
const lines = (svg: string) => svg.match(/<path d="([^"]*)" fill="none" stroke="#29323a"/)![1];

describe('a picture in lines', () => {
	it('is one SVG with the letters of its seams, and a number for each run where the order is asked for', () => {
		const bare = lineSvg(plan, corner, new Set(), false);
		expect(bare).toMatch(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" .*<\/svg>$/);
		expect(bare).toMatch(/>[A-F]<\/text>/);
		const last = `>${plan.runs.length}</text>`;
		expect(bare).not.toContain(last);
		expect(lineSvg(plan, corner, new Set(), true)).toContain(last);
	});
	it('leaves out what is hidden, and turns with the side', () => {
		const whole = lines(lineSvg(plan, corner, new Set(), false));
		expect(lines(lineSvg(plan, corner, new Set([0]), false)).length).toBeLessThan(whole.length);
		// straight from above: as wide and as high as the piece is long and wide, but for the margin
		const above = lineSvg(plan, { eye: [0, 0, 1], right: [1, 0, 0], up: [0, 1, 0] }, new Set(), false);
		const [, w, h] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(above)!.map(Number);
		const p = plan.family!.parameters as unknown as { lengthMm: number; widthMm: number; rimFlangeMm: number };
		expect((w - 0.2 * (w / 1.2)) / (h - 0.2 * (w / 1.2))).toBeCloseTo((p.lengthMm + 2 * p.rimFlangeMm) / (p.widthMm + 2 * p.rimFlangeMm), 1);
	});
});
