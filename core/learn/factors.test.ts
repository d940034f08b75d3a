import { describe, expect, it } from 'vitest';
import { factorBand, learn, multipliers, priorFactors, thicknessBand, type Observation } from './factors';

/** Features that are plain sums of the three actions, with known weights. */
const observe = (weights: [number, number, number], truth: number[], sigma = 0.01): Observation => {
	const value = (log: ArrayLike<number>) => {
		const m = multipliers(log);
		return weights[0] * m.force + weights[1] * m.shrinkage + weights[2] * m.angle;
	};
	return { label: String(weights), measured: value(truth), sigma, predict: value };
};

describe('shop factors', () => {
	it('without readings the prior stands: force times or divided by 1.6 at 90 %', () => {
		const l = learn(priorFactors(), [], 0);
		expect(l.posterior.mean).toEqual([0, 0, 0, 0]);
		const f = factorBand(l.posterior, 'force');
		expect(f.high).toBeCloseTo(1.6, 9);
		expect(f.low).toBeCloseTo(1 / 1.6, 9);
	});
	it('one linear reading against the closed-form Gaussian answer', () => {
		// only the shrinkage moves, small enough to be linear: posterior mean = S w / (S w^2 + s^2) x residual, S = heat + shrinkage variance
		const prior = priorFactors();
		const S = prior.covariance[0] + prior.covariance[10];
		const predict = (log: ArrayLike<number>) => 1 + (log[0] + log[2]);
		const o: Observation = { label: 'x', measured: 1.02, sigma: 0.05, predict };
		const s2 = 0.05 ** 2 + 0.25 ** 2; // reading and model form
		const expected = (S * 0.02) / (S + s2);
		const l = learn(prior, [o], 1);
		expect(l.converged).toBe(true);
		expect(l.posterior.mean[0] + l.posterior.mean[2]).toBeCloseTo(expected, 9);
	});
	it('many readings of a shop that shrinks by 1.3 bring the forecast there and narrow the band', () => {
		const truth = [0, Math.log(0.9), Math.log(1.3), Math.log(0.7)];
		const rows = Array.from({ length: 40 }, (_, i) =>
			observe(
				[
					[1, 0.2, 0],
					[0, 1, 0.1],
					[0.1, 0, 2]
				][i % 3] as [number, number, number],
				truth
			)
		);
		const l = learn(priorFactors(), rows, 10);
		const m = multipliers(l.posterior.mean);
		expect(m.shrinkage).toBeGreaterThan(1.2);
		expect(m.angle).toBeLessThan(0.8);
		expect(factorBand(l.posterior, 'angle').high / factorBand(l.posterior, 'angle').low).toBeLessThan(4);
		expect(l.posterior).toMatchObject({ readings: 40, pieces: 10 });
	});
	it('an outlier is flagged and kept', () => {
		const good = Array.from({ length: 6 }, () => observe([0, 1, 0], [0, 0, 0, 0]));
		const l = learn(priorFactors(), [...good, { ...observe([0, 1, 0], [0, 0, 0, 0]), measured: 9 }], 1);
		expect(l.rows.map((r) => r.outlier)).toEqual([false, false, false, false, false, false, true]);
		expect(l.posterior.readings).toBe(7);
	});
	it('thickness bands', () => expect([0.8, 1.5, 3, 4].map(thicknessBand)).toEqual(['under 1 mm', '1 to 2 mm', '2 to 3 mm', 'over 3 mm']));
});
