import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../core/families';
import { newPlan } from '../core/families/newPlan';
import { factorBand, multipliers, priorFactors } from '../core/factors/factors';
import { lessonFrom, type PieceReading } from '../core/learn/fromPiece';
import { featureKind } from '../core/features';
import { readingContext } from '../core/features/context';
import { evaluateReadings } from '../core/measure/readings';
import { VirtualPiece } from './virtualShop';

const plan = { ...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!, meshSizeMm: 20 };
const truth = { heat: 1, force: 1, shrinkage: 1.35, angle: 0.6 };
const measured = (seed: number): PieceReading[] => {
	const piece = new VirtualPiece(plan, truth, seed);
	return plan.features.map((f) => {
		const r = piece.read(f, 'unclamped');
		const e = evaluateReadings(r.method, r.readings, readingContext(f, plan));
		return { id: `${seed}-${f.id}`, feature: f.id, moment: 'unclamped', value: e.value, uncertainty90: e.uncertainty90 };
	});
};

describe('the virtual shop teaches what it hides', () => {
	it('the same seed gives the same readings, another seed others', () => {
		expect(measured(3)).toEqual(measured(3));
		expect(measured(3)).not.toEqual(measured(4));
	});
	it('readings lie about the truth by no more than their doubt allows', () => {
		const piece = new VirtualPiece(plan, truth, 9);
		for (const f of plan.features.filter((x) => featureKind(x).teaches)) {
			const r = measured(9).find((x) => x.feature === f.id)!;
			expect(Math.abs(r.value - piece.trueValue(f, 'unclamped'))).toBeLessThan(3 * r.uncertainty90 + 0.5);
		}
	});
	it('six pieces move the factors to the hidden truth, narrow the band, and predict the seventh better than before', () => {
		let factors = priorFactors();
		for (let seed = 1; seed <= 6; seed++) {
			const readings = measured(seed);
			const lesson = lessonFrom(plan, factors, readings, new Set(readings.map((r) => r.id)));
			expect(lesson.learned!.converged).toBe(true);
			// waves never teach the linear method
			expect(lesson.learned!.rows.some((r) => /flatness|straightness|Twist/i.test(r.label))).toBe(false);
			factors = lesson.learned!.posterior;
		}
		const m = multipliers(factors.mean);
		expect(m.angle).toBeLessThan(0.8);
		expect(m.shrinkage).toBeGreaterThan(1.1);
		expect(factors.pieces).toBe(6);
		const width = (f: typeof factors) => factorBand(f, 'angle').high / factorBand(f, 'angle').low;
		expect(width(factors)).toBeLessThan(width(priorFactors()));
		const seventh = measured(7);
		const error = (f: typeof factors) => {
			const rows = lessonFrom(plan, f, seventh, new Set()).rows.filter((r) => r.learnable && r.unit === '°');
			return rows.reduce((s, r) => s + Math.abs(r.measured - r.before.predicted), 0);
		};
		expect(error(factors)).toBeLessThan(error(priorFactors()));
	});
});
