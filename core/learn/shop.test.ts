/** Learning from many pieces: against closed forms of the textbook, a published worked example, and shops that are made up. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveSmall } from '../linalg/dense';
import { uniformFrom } from '../linalg/random';
import { factorBand, multipliers, priorFactors } from '../factors/factors';
import { alike, type Context } from './context';
import { learnShop, type Evidence } from './shop';

const THIN: Context = { group: 'austenitic', thicknessMm: 1.5, technique: 'TIG steady', isOnBar: false };
const reading = (over: Partial<Evidence>): Evidence => ({
	reading: 'r',
	piece: 'p',
	context: THIN,
	kind: 'length',
	label: 'Width',
	unit: 'mm',
	measured: 1,
	sigma: 0.05,
	predicted: 1,
	slopes: [0, 1, 0],
	spread: 1e-6,
	at: 0,
	...over
});
const normals = (seed: number) => {
	const u = uniformFrom(seed);
	return () => Math.sqrt(-2 * Math.log(1 - u())) * Math.cos(2 * Math.PI * u());
};

describe('one factor, one context: the normal model with a known variance', () => {
	// small moves, so that the logarithm is a straight line: value = 1 + (heat + shrinkage), prior variance the sum of the two
	const { covariance } = priorFactors();
	const prior = covariance[0] + covariance[10];
	it('mean and variance are the precision-weighted ones (any textbook; A. Gelman et al., Bayesian Data Analysis, section 2.5)', () => {
		const moves = [0.002, -0.001, 0.004];
		const shop = learnShop(
			moves.map((m, i) => reading({ reading: `r${i}`, piece: `p${i}`, measured: 1 + m, sigma: 0.1 })),
			[THIN]
		);
		// each piece goes its own way by 0.08
		const doubt = 0.1 ** 2 + 0.08 ** 2;
		const variance = 1 / (1 / prior + 3 / doubt);
		const mean = (variance * moves.reduce((s, m) => s + m, 0)) / doubt;
		const [f] = shop.asked;
		expect(f.mean[0] + f.mean[2]).toBeCloseTo(mean, 5);
		expect(f.covariance[0] + 2 * f.covariance[2] + f.covariance[10]).toBeCloseTo(variance, 4);
		// heat and shrinkage cannot be told apart by it: each takes its share of the prior
		expect(f.mean[0] / f.mean[2]).toBeCloseTo(covariance[0] / covariance[10], 3);
		expect(shop.converged).toBe(true);
	});
	it('ten readings of one piece say less than ten of ten pieces: it goes its own way', () => {
		const width = (pieces: number) => {
			const shop = learnShop(
				Array.from({ length: 10 }, (_, i) => reading({ reading: `r${i}`, piece: `p${i % pieces}`, measured: 1.1 })),
				[THIN]
			);
			const f = factorBand(shop.asked[0], 'shrinkage');
			return f.high / f.low;
		};
		const variance = (f: number[]) => f[0] + 2 * f[2] + f[10];
		expect(width(1)).toBeGreaterThanOrEqual(width(10));
		const one = learnShop(
			Array.from({ length: 10 }, (_, i) => reading({ reading: `r${i}`, measured: 1 })),
			[THIN]
		).asked[0].covariance;
		// whatever the number of readings, a piece tells its shop no closer than its own way
		expect(variance(one)).toBeGreaterThan(1 / (1 / prior + 1 / 0.08 ** 2) - 1e-9);
	});
});

describe('several features and factors', () => {
	/** moves so small that the logarithms are straight lines */
	const SMALL = 1e-3;
	const list = fc.array(fc.tuple(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -100, max: 100 }))), fc.integer({ min: -100, max: 100 })), {
		minLength: 1,
		maxLength: 8
	});
	const observed = (rows: [number[], number][]) =>
		rows.map(([w, off], i) =>
			reading({
				reading: `r${i}`,
				piece: `p${i}`,
				slopes: w.map((v) => v / 100) as [number, number, number],
				measured: 1 + (SMALL * off) / 100,
				sigma: 0.05
			})
		);
	it('against the normal equations of Gaussian regression (Gelman et al., Bayesian Data Analysis, ch. 14)', () =>
		fc.assert(
			fc.property(list, (rows) => {
				const obs = observed(rows as [number[], number][]);
				const H = new Float64Array(16);
				const g = new Float64Array(4);
				for (let i = 0; i < 4; i++) H[5 * i] = 1 / priorFactors().covariance[5 * i];
				for (const o of obs) {
					const by = [o.slopes[0] + o.slopes[1] + o.slopes[2], ...o.slopes];
					const v = o.sigma ** 2 + 0.08 ** 2 * o.slopes.reduce((s, x) => s + x * x, 0);
					for (let i = 0; i < 4; i++) {
						g[i] += (by[i] * (o.measured - 1)) / v;
						for (let j = 0; j < 4; j++) H[4 * i + j] += (by[i] * by[j]) / v;
					}
				}
				const expected = solveSmall(H, g);
				const shop = learnShop(obs, [THIN]);
				expect(shop.converged).toBe(true);
				shop.asked[0].mean.forEach((v, i) => expect(v / SMALL).toBeCloseTo(expected[i] / SMALL, 1));
			}),
			{ numRuns: 40 }
		));
	it('nothing is ever less sure than before, and the order of readings does not matter', () =>
		fc.assert(
			fc.property(list, (rows) => {
				const obs = observed(rows as [number[], number][]);
				const [p, q] = [obs, [...obs].reverse()].map((o) => learnShop(o, [THIN]).asked[0]);
				p.mean.forEach((v, i) => expect(v).toBeCloseTo(q.mean[i], 9));
				for (let i = 0; i < 4; i++) expect(p.covariance[5 * i]).toBeLessThanOrEqual(priorFactors().covariance[5 * i] * (1 + 1e-6));
			}),
			{ numRuns: 40 }
		));
	it('a wild reading pulls no harder the wilder it is (Huber 1964)', () => {
		// among ten steady ones, so that how far the forecast errs is not learned from the wild one alone
		const steady = Array.from({ length: 10 }, (_, i) => reading({ reading: `s${i}`, piece: `s${i}` }));
		const at = (measured: number) => learnShop([...steady, reading({ reading: 'w', piece: 'w', measured })], [THIN]).asked[0].mean[2];
		expect(at(1.2)).toBeGreaterThan(at(1));
		expect(at(50)).toBeCloseTo(at(20), 3);
		expect(at(50)).toBeLessThan(0.1);
	});
	it('what is kept is read again as it was: plain numbers', () => {
		const { asked } = learnShop([reading({ measured: 1.1 })], [THIN]);
		expect(JSON.parse(JSON.stringify(asked))).toEqual(asked);
	});
});

describe('borrowing between contexts: the one-way random effects model', () => {
	it('the effects of eight groups with known variances, as in the textbook (D. B. Rubin 1981, the coaching trials of eight schools)', () => {
		// eight contexts that have nothing in common but the shop: techniques of different names in different metals and thicknesses
		const effects = [28, 8, -3, 7, -1, 1, 18, 12];
		const errors = [15, 10, 16, 11, 9, 11, 10, 18];
		const contexts = effects.map((_, i): Context => ({ group: `g${i}`, thicknessMm: 10 ** i, technique: `t${i}`, isOnBar: false }));
		const k = contexts.map((a) => contexts.map((b) => alike(a, b)));
		expect(k[0][1]).toBeCloseTo(0.45, 9);
		// scaled down so far that logarithms are straight lines and no piece’s own way counts
		const scale = 2e-4;
		const { covariance } = priorFactors();
		const variance = covariance[0] + covariance[10];
		const own = 0.08 ** 2;
		const rows = effects.map((e, i) =>
			reading({
				reading: `r${i}`,
				piece: `p${i}`,
				context: contexts[i],
				measured: 1 + e * scale,
				sigma: Math.sqrt((errors[i] / 15) ** 2 * 0.3 ** 2 - own)
			})
		);
		const shop = learnShop(rows, contexts);
		// the closed form: common mean with variance c, effects about it with variance t; written out by precision weights
		const c = 0.45 * variance;
		const t = 0.55 * variance;
		const v = errors.map((s) => ((s / 15) * 0.3) ** 2);
		const weights = v.map((s) => 1 / (s + t));
		const mean = weights.reduce((s, w, i) => s + w * effects[i], 0) / (weights.reduce((s, w) => s + w, 0) + 1 / c);
		effects.forEach((e, i) => {
			const shrunk = mean + (t / (t + v[i])) * (e - mean);
			const { mean: m } = shop.asked[i];
			expect((m[0] + m[2]) / scale).toBeCloseTo(shrunk, 1);
		});
	});
	it('ten coupons of 1.5 mm say something of 1.2 mm, less of another metal, and say how little', () => {
		const rows = Array.from({ length: 10 }, (_, i) => reading({ reading: `r${i}`, piece: `p${i}`, measured: 1.4 }));
		const others: Context[] = [
			{ ...THIN, thicknessMm: 1.2 },
			{ ...THIN, group: 'aluminium' }
		];
		const [own, thinner, other] = learnShop(rows, [THIN, ...others]).asked;
		const by = (f: typeof own) => multipliers(f.mean).shrinkage;
		expect(by(own)).toBeGreaterThan(by(thinner));
		expect(by(thinner)).toBeGreaterThan(by(other));
		expect(by(other)).toBeGreaterThan(1);
		const half = (f: typeof own) => f.covariance[10];
		expect(half(own)).toBeLessThan(half(thinner));
		expect(half(thinner)).toBeLessThan(half(other));
		expect(half(other)).toBeLessThan(priorFactors().covariance[10]);
		expect([own.pieces, thinner.pieces, thinner.borrowed, other.borrowed]).toEqual([10, 0, 10, 10]);
	});
	it('nothing measured leaves the prior', () => {
		const [f] = learnShop([], [THIN]).asked;
		expect(f.mean).toEqual([0, 0, 0, 0]);
		f.covariance.forEach((v, i) => expect(v).toBeCloseTo(priorFactors().covariance[i], 6));
	});
});

describe('honest', () => {
	const made = (seed: number, over: (i: number) => Partial<Evidence> = () => ({})) => {
		const next = normals(seed);
		return Array.from({ length: 24 }, (_, i) => {
			const piece = 0.08 * next();
			const slopes = [0, 0.5 + 0.1 * (i % 5), 0] as [number, number, number];
			const truth = slopes[1] * Math.exp(0.3 + piece);
			return reading({
				reading: `r${i}`,
				piece: `p${i}`,
				predicted: slopes[1],
				slopes,
				sigma: 0.03,
				spread: 0.06,
				measured: truth + 0.03 * next() + 0.06 * next(),
				...over(i)
			});
		});
	};
	it('a slip is flagged, held on a leash, and moves the factor little', () => {
		const clean = learnShop(made(5), [THIN]);
		const slip = learnShop(
			made(5, (i) => (i === 3 ? { measured: 25.4 } : {})),
			[THIN]
		);
		expect(slip.rows.filter((r) => r.isOutlier).map((r) => r.reading)).toEqual(['r3']);
		const by = (s: typeof clean) => multipliers(s.asked[0].mean).shrinkage;
		expect(Math.abs(by(slip) / by(clean) - 1)).toBeLessThan(0.05);
	});
	it('predicted from all other pieces: the same as learning without the piece, and farther off than with it', () => {
		const rows = made(6);
		const all = learnShop(rows, [THIN]);
		const without = learnShop(rows.slice(1), [THIN]);
		const m = multipliers(without.asked[0].mean);
		expect(all.rows[0].alone).toBeCloseTo(rows[0].predicted + rows[0].slopes[1] * (m.shrinkage - 1), 3);
		const error = (of: (r: (typeof all.rows)[0]) => number) => all.rows.reduce((s, r) => s + (r.measured - of(r)) ** 2, 0);
		expect(error((r) => r.alone)).toBeGreaterThan(error((r) => r.after));
	});
	it('what one reading does to the factors: the same as learning without it, within a tenth of its move, two readings a piece', () => {
		const rows = made(9, (i) => ({ piece: `p${i >> 1}` }));
		const all = learnShop(rows, [THIN]);
		const shrinkage = (s: typeof all) => s.asked[0].mean[2];
		for (const i of [0, 5, 11, 20]) {
			const without = learnShop(
				rows.filter((_, k) => k !== i),
				[THIN]
			);
			const move = shrinkage(all) - shrinkage(without);
			expect(Math.abs(move)).toBeGreaterThan(1e-4);
			// how far the forecast errs is learned anew without it: that is in the other one too
			expect(Math.abs(all.rows[i].moves[2] - move)).toBeLessThan(0.1 * Math.abs(move) + 2e-4);
		}
	});
	it('a forecast that errs by twice what it says is found out; one that errs as it says is let be', () => {
		// an error that no factor can take up: half the pieces above, half below
		const twice = made(7, (i) => ({ measured: made(7)[i].measured + (i % 2 ? 0.12 : -0.12) }));
		expect(learnShop(twice, [THIN]).form.length.times).toBeGreaterThan(1.5);
		const said = learnShop(made(8), [THIN]).form.length;
		expect(said.times).toBeGreaterThan(0.7);
		expect(said.times).toBeLessThan(1.3);
	});
	it('bands of left-out readings cover nine in ten, over many shops that are as it takes them to be', () => {
		let [inside, all] = [0, 0];
		for (let seed = 100; seed < 140; seed++)
			for (const r of learnShop(made(seed), [THIN]).rows) {
				all++;
				if (Math.abs(r.measured - r.alone) <= 1.645 * r.aloneSigma) inside++;
			}
		expect(inside / all).toBeGreaterThan(0.87);
		expect(inside / all).toBeLessThan(0.94);
	});
	it('of two shapes the one that was found counts', () => {
		const shop = learnShop([reading({ kind: 'flatness', predicted: 3, other: 1, measured: 1.02, slopes: [1, 0, 0] })], [THIN]);
		expect(shop.rows[0].after).toBeCloseTo(1, 1);
		expect(shop.rows[0].isOutlier).toBe(false);
	});
});
