/** How the rest of a piece holds two edges, against what is free, what is clamped, and a closed form. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { PlanDocument } from '../document/schema';
import { closingStiffness } from './closing';

const kernel = kernelFactory(WebAssembly);
const panel = (): PlanDocument => {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!;
	return { ...plan, meshSizeMm: 20 };
};
const of = (plan: PlanDocument) => {
	const { mesh, condensed, events } = forecast(plan, { cache: new ForecastCache(kernel) }).analysis;
	return closingStiffness(plan, mesh.seams, condensed, events);
};

describe('what holds the edges of a seam', () => {
	it('two loose blanks: nothing, whatever their own tacks do', () => {
		const close = panel();
		close.tacks = Array.from({ length: 25 }, (_, i) => ({ ...close.tacks[0], id: `t${i}`, stationMm: 10 * i }));
		expect(of(panel()).get('s1')).toBeLessThan(1e-3);
		expect(of(close).get('s1')).toBeLessThan(1e-3);
	});
	it('a corner of a trough is held by the fold beside it, the stiffer the thicker the sheet', () => {
		const trough = (thicknessMm: number) => {
			const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80 }).plan!;
			plan.parts.forEach((p) => (p.thicknessMm = thicknessMm));
			return Math.min(...of({ ...plan, meshSizeMm: 25 }).values());
		};
		const [thin, thick] = [trough(1), trough(2)];
		expect(thin).toBeGreaterThan(0.01);
		expect(thick).toBeGreaterThan(3 * thin);
	});
	it('seams already run hold the next ones: the last corner seam of a trough is held harder than the first', () => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80 }).plan!;
		plan.meshSizeMm = 25;
		// tacks join a seam as well: without them only what is welded holds
		plan.tacks = [];
		const held = of(plan);
		const order = [...new Set(plan.runs.map((r) => r.joint))];
		expect(held.get(order[order.length - 1])).toBeGreaterThan(held.get(order[0])!);
	});
});
