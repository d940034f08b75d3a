/** The search's heat (sums of what each run does alone) against the schedule's (the whole weld-out, step by step). */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache } from '../forecast/analysis';
import { schedule } from '../forecast/schedule';
import { kernelFactory } from '../linalg/kernel/kernel';
import { uniformFrom } from '../linalg/random';
import { orderPattern } from '../schools/orderPattern';
import type { PlanDocument } from '../document/schema';
import { OrderHeat } from './orderHeat';

const kernel = kernelFactory(WebAssembly);
function piece(change: (p: PlanDocument) => void = () => {}): PlanDocument {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 220, widthMm: 140, depthMm: 70, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 25;
	plan.runs = orderPattern(plan, { pattern: 'straight-through', runLengthMm: 60 });
	plan.interpassLimitC = 90;
	change(plan);
	return plan;
}
const heatOf = (plan: PlanDocument) => {
	const a = analyse(plan, new ForecastCache(kernel));
	return { a, heat: new OrderHeat(a, undefined, () => {}) };
};
const shuffled = (n: number, seed: number) => {
	const random = uniformFrom(seed);
	const out = Array.from({ length: n }, (_, i) => i);
	for (let i = n - 1; i > 0; i--) {
		const j = Math.floor(random() * (i + 1));
		[out[i], out[j]] = [out[j], out[i]];
	}
	return out;
};
const never = (n: number) => new Array<boolean>(n).fill(false);

describe('heat of an order, as sums', () => {
	const plan = piece();
	const { a, heat } = heatOf(plan);
	const n = plan.runs.length;

	it('gives the schedule’s starts within 15 K and its time within a fifth, for any order: a screening, and the table takes the schedule', () => {
		for (const order of [plan.runs.map((_, i) => i), shuffled(n, 3), shuffled(n, 8)]) {
			const t = heat.times(order, never(n));
			const s = schedule({ ...plan, runs: order.map((i) => plan.runs[i]) }, a.mesh);
			s.runs.forEach((r, k) => expect(Math.abs(plan.ambientC + t.hottest[k] - r.hottestC), `run ${k + 1}`).toBeLessThan(15));
			expect(s.runs.reduce((x, r) => x + r.waitS, 0)).toBeGreaterThan(60);
			expect(Math.abs(t.totalS - s.totalS)).toBeLessThan(0.2 * s.totalS);
		}
	});
	it('keeps every start under the ceiling by waiting, and the first run finds cold metal', () => {
		for (let seed = 1; seed < 12; seed++) {
			const t = heat.times(shuffled(n, seed), never(n));
			expect(t.hottest[0]).toBe(0);
			for (const v of t.hottest) expect(v).toBeLessThanOrEqual(plan.interpassLimitC - plan.ambientC + 1e-9);
			for (let k = 0; k < n; k++) expect(t.mean[k]).toBeLessThanOrEqual(t.hottest[k] + 1e-6);
		}
	});
	it('a flip takes its time and lets the metal cool; runs far apart find less than neighbours', () => {
		// where nothing waits for the ceiling
		const free = heatOf(piece((p) => (p.interpassLimitC = 600))).heat;
		const order = plan.runs.map((_, i) => i);
		const plain = free.times(order, never(n));
		const flipped = free.times(
			order,
			order.map((_, k) => k === 1)
		);
		expect([plain.waitS, flipped.waitS]).toEqual([0, 0]);
		expect(flipped.hottest[1]).toBeLessThan(plain.hottest[1]);
		expect(flipped.totalS - plain.totalS).toBeCloseTo(60, 9);
		const after = (run: number) => free.times([0, run], never(2)).hottest[1];
		const elsewhere = plan.runs.flatMap((r, i) => (r.joint === plan.runs[0].joint ? [] : [after(i)]));
		expect(after(1)).toBeGreaterThan(Math.min(...elsewhere));
		expect(Math.min(...elsewhere)).toBeGreaterThanOrEqual(0);
	});
	it('a wait that is set is kept, whatever the metal does', () => {
		const fixed = piece((p) => (p.runs[3].waitBeforeS = 400));
		const t = heatOf(fixed).heat.times(
			fixed.runs.map((_, i) => i),
			never(n)
		);
		const plain = heat.times(
			plan.runs.map((_, i) => i),
			never(n)
		);
		expect(t.hottest[3]).toBeLessThan(plain.hottest[3] + 1e-9);
		expect(t.totalS).toBeGreaterThan(plain.totalS);
	});
	it('forces fall with what a run finds, by the rate the warm forecast taught, and are 1 where none was taught', () => {
		const order = plan.runs.map((_, i) => i);
		const t = heat.times(order, never(n));
		expect([...heat.forces(order, t)]).toEqual(order.map(() => 1));
		const warm = analyse(plan, new ForecastCache(kernel), { warm: true });
		const taught = new OrderHeat(a, warm, () => {});
		const forces = taught.forces(order, t);
		const factors = new Map(warm.responses.flatMap((r) => [...r.runs]));
		forces.forEach((f, k) => {
			expect(f).toBeGreaterThan(0.3);
			expect(f).toBeLessThan(1.5);
			// one rate for a whole seam against the strip solver's own answer for each run
			expect(Math.abs(f - factors.get(plan.runs[k].id)!)).toBeLessThan(0.06);
		});
	});
});
