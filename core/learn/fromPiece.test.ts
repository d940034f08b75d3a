/** What one measured piece teaches: a shop that is given, its readings made from it, and found again. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { kernelFactory } from '../linalg/kernel/kernel';
import { factorBand, multipliers, priorFactors } from '../factors/factors';
import { lessonFrom, type PieceReading } from './fromPiece';

const kernel = kernelFactory(WebAssembly);
const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 70, rimFlangeMm: 0 }).plan!;
plan.meshSizeMm = 25;
const a = analyse(plan, new ForecastCache(kernel));
/** readings as a shop with these logarithms would take them, without error */
const shop = (log: readonly number[], ids = plan.features.map((f) => f.id), uncertainty90 = 0.01): PieceReading[] =>
	ids.map((feature, i) => ({
		id: `r${i}`,
		feature,
		moment: 'unclamped',
		value: a.featureAt(
			plan.features.find((f) => f.id === feature)!,
			'unclamped',
			scalesOf(log)
		),
		uncertainty90
	}));
const learnable = plan.features.filter((f) => ['length', 'squareness', 'angle'].includes(f.kind)).map((f) => f.id);
const all = (readings: readonly PieceReading[]) => new Set(readings.map((r) => r.id));

describe('a lesson from a piece', () => {
	it('this trough has both: features to learn from, and such that waves can own', () => {
		expect(learnable.length).toBeGreaterThan(1);
		expect(learnable.length).toBeLessThan(plan.features.length);
	});
	it('readings that agree with the forecast leave the factors at one and narrow them', () => {
		const readings = shop([0, 0, 0, 0]);
		const l = lessonFrom(plan, priorFactors(), readings, all(readings), kernel);
		l.learned!.posterior.mean.forEach((v) => expect(v).toBeCloseTo(0, 9));
		for (const name of ['shrinkage', 'angle'] as const)
			expect(factorBand(l.learned!.posterior, name).high).toBeLessThan(factorBand(priorFactors(), name).high);
		expect(l.rows.every((r) => Math.abs(r.measured - r.before.predicted) < 1e-9 && !r.outlier)).toBe(true);
	});
	it('a shop that shrinks more is seen: each learnable prediction moves towards its reading', () => {
		const readings = shop([0.05, 0, Math.log(1.4), Math.log(1.3)]);
		const l = lessonFrom(plan, priorFactors(), readings, all(readings), kernel);
		expect(l.learned!.converged).toBe(true);
		const m = multipliers(l.learned!.posterior.mean);
		// held back by the model form: a quarter of what is foretold is not trusted
		expect(m.shrinkage).toBeGreaterThan(1.01);
		for (const r of l.rows.filter((x) => x.learnable && Math.abs(x.measured - x.before.predicted) > 0.02)) {
			const [before, after] = [r.measured - r.before.predicted, r.measured - r.after!.predicted];
			expect(Math.abs(after), r.name).toBeLessThan(Math.abs(before));
		}
	});
	it('readings that waves can own are shown and teach nothing', () => {
		const others = plan.features.filter((f) => !learnable.includes(f.id)).map((f) => f.id);
		const readings = shop([0.3, 0.3, 0.3, 0.3], others);
		const l = lessonFrom(plan, priorFactors(), readings, all(readings), kernel);
		expect(l.learned).toBeUndefined();
		expect(l.rows.map((r) => [r.learnable, r.after])).toEqual(others.map(() => [false, undefined]));
		expect(l.leaveOneOut).toEqual([]);
	});
	it('a reading the factors have seen before is shown and does not count twice', () => {
		const readings = shop([0, 0, Math.log(1.5), 0], learnable);
		const [one, ...rest] = readings;
		const l = lessonFrom(plan, priorFactors(), readings, new Set([one.id]), kernel);
		expect(l.rows).toHaveLength(readings.length);
		expect(l.learned!.rows).toHaveLength(1);
		expect(l.learned!.posterior.readings).toBe(1);
		const none = lessonFrom(plan, priorFactors(), rest, new Set(), kernel);
		expect(none.learned).toBeUndefined();
		expect(none.rows).toHaveLength(rest.length);
	});
	it('a reading of something the plan does not have is left out', () => {
		const odd: PieceReading = { id: 'x', feature: 'gone', moment: 'unclamped', value: 1, uncertainty90: 0.1 };
		const l = lessonFrom(plan, priorFactors(), [...shop([0, 0, 0, 0], learnable), odd], new Set(['x', 'r0']), kernel);
		expect(l.rows.some((r) => r.feature === 'gone')).toBe(false);
		expect(l.learned!.rows).toHaveLength(1);
	});
	it('one slip among good readings is flagged, kept, and does not carry the factors off', () => {
		// the same feature read five times, once with the tape hooked wrongly
		const [feature] = plan.features.filter((f) => f.kind === 'length').map((f) => f.id);
		const good = shop([0, 0, 0, 0], [feature, feature, feature, feature, feature], 0.2);
		const slip = good.map((r, i) => (i === 3 ? { ...r, value: r.value + 10 } : r));
		const l = lessonFrom(plan, priorFactors(), slip, all(slip), kernel);
		expect(l.rows.map((r) => r.outlier)).toEqual([false, false, false, true, false]);
		const alone = lessonFrom(plan, priorFactors(), [slip[3]], new Set(['r3']), kernel);
		expect(Math.abs(l.learned!.posterior.mean[2])).toBeLessThan(Math.abs(alone.learned!.posterior.mean[2]) + 1e-9);
	});
	it('leave-one-out: each predicted from the others, in its own unit, worse than with itself', () => {
		const readings = shop([0, 0, Math.log(1.3), Math.log(0.8)], learnable);
		const l = lessonFrom(plan, priorFactors(), readings, all(readings), kernel);
		expect(l.leaveOneOut.reduce((s, x) => s + x.count, 0)).toBe(readings.length);
		for (const x of l.leaveOneOut) {
			const own = l.rows.filter((r) => r.unit === x.unit);
			const fitted = Math.sqrt(own.reduce((s, r) => s + (r.measured - r.after!.predicted) ** 2, 0) / own.length);
			expect(x.error).toBeGreaterThanOrEqual(fitted - 1e-9);
			expect(Number.isFinite(x.error)).toBe(true);
		}
	});
});
