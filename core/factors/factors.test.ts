import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveSmall } from '../linalg/dense';
import { factorBand, FACTOR_NAMES, learn, MODEL_FORM, multipliers, priorFactors, thicknessBand, type Observation, type ShopFactors } from './factors';

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
	/** readings that are straight lines in the logarithms, near 1 so that their model form is the same before and after */
	const linear = (w: readonly number[], measured: number, sigma = 0.05): Observation => ({
		label: String(w),
		measured,
		sigma,
		predict: (log) => 1 + w.reduce((s, v, i) => s + v * log[i], 0)
	});
	const rows = fc.array(fc.tuple(fc.tuple(...[0, 1, 2, 3].map(() => fc.integer({ min: -100, max: 100 }))), fc.integer({ min: -100, max: 100 })), {
		minLength: 1,
		maxLength: 8
	});
	const observed = (list: [number[], number][]) =>
		list.map(([w, off]) =>
			linear(
				w.map((v) => v / 500),
				1 + off / 500
			)
		);
	it('several linear readings against the normal equations of Gaussian regression (Gelman et al., Bayesian Data Analysis, ch. 14)', () =>
		fc.assert(
			fc.property(rows, (list) => {
				const prior = priorFactors();
				const obs = observed(list as [number[], number][]);
				const n = FACTOR_NAMES.length;
				const H = new Float64Array(n * n);
				const g = new Float64Array(n);
				for (let i = 0; i < n; i++) H[5 * i] = 1 / prior.covariance[5 * i];
				list.forEach(([w], k) => {
					const s2 = obs[k].sigma ** 2 + MODEL_FORM ** 2;
					for (let i = 0; i < n; i++) {
						g[i] += ((w[i] / 500) * (obs[k].measured - 1)) / s2;
						for (let j = 0; j < n; j++) H[i * n + j] += ((w[i] / 500) * (w[j] / 500)) / s2;
					}
				});
				const expected = solveSmall(H, g);
				const l = learn(prior, obs, 1);
				expect(l.converged).toBe(true);
				l.posterior.mean.forEach((v, i) => expect(v).toBeCloseTo(expected[i], 7));
			}),
			{ numRuns: 40 }
		));
	it('nothing is ever less sure than before, and the order of readings does not matter', () =>
		fc.assert(
			fc.property(rows, (list) => {
				const obs = observed(list as [number[], number][]);
				const [p, q] = [learn(priorFactors(), obs, 1), learn(priorFactors(), [...obs].reverse(), 1)];
				p.posterior.mean.forEach((v, i) => expect(v).toBeCloseTo(q.posterior.mean[i], 9));
				for (let i = 0; i < 4; i++) expect(p.posterior.covariance[5 * i]).toBeLessThanOrEqual(priorFactors().covariance[5 * i] + 1e-12);
			}),
			{ numRuns: 40 }
		));
	it('two pieces one after the other teach what they teach together, where nothing bends', () => {
		const first = [linear([1, 1, 0, 0], 1.03), linear([1, 0, 1, 0], 0.98)];
		const second = [linear([1, 0, 0, 1], 1.02)];
		const step = learn(learn(priorFactors(), first, 1).posterior, second, 1).posterior;
		const whole = learn(priorFactors(), [...first, ...second], 2).posterior;
		expect([step.readings, step.pieces]).toEqual([whole.readings, whole.pieces]);
		// the model form is a share of what was foretold, which the first piece moved by a hundredth
		step.mean.forEach((v, i) => expect(v).toBeCloseTo(whole.mean[i], 3));
	});
	it('a wild reading pulls no harder the wilder it is (Huber 1964)', () => {
		const at = (measured: number) => learn(priorFactors(), [linear([0, 0, 1, 0], measured)], 1).posterior.mean[2];
		expect(at(1.2)).toBeGreaterThan(at(1.1));
		expect(at(50)).toBeCloseTo(at(5), 6);
		expect(at(50)).toBeLessThan(1);
	});
	it('what is stored is read again as it was: plain numbers', () => {
		const l = learn(priorFactors(), [linear([1, 0, 1, 0], 1.1)], 1).posterior;
		expect(JSON.parse(JSON.stringify(l)) as ShopFactors).toEqual(l);
		for (const name of FACTOR_NAMES) {
			const b = factorBand(l, name);
			expect(b.low).toBeLessThan(b.value);
			expect(b.value).toBeLessThan(b.high);
		}
	});
	it('thickness bands', () => expect([0.8, 1.5, 3, 4].map(thicknessBand)).toEqual(['under 1 mm', '1 to 2 mm', '2 to 3 mm', 'over 3 mm']));
});
