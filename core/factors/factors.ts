/**
 * Shop factors: multipliers on what the closed forms say, log-normal, with their uncertainty. Heat acts on all three actions
 * (they err together). Updated by Bayesian regression on measured features, linearised and iterated (docs/theory/learning.md).
 */
import { solveSmall } from '../linalg/dense';

/** Changes when the meaning of a factor changes: stored factors of another version are recomputed, never mixed. */
export const FACTOR_METHOD = 'section-linear/6';

export const FACTOR_NAMES = ['heat', 'force', 'shrinkage', 'angle'] as const;
export type FactorName = (typeof FACTOR_NAMES)[number];

export interface ShopFactors {
	/** mean of the natural logarithm of heat, force, shrinkage, angle */
	mean: number[];
	/** 4 x 4, row-major, of the same logarithms */
	covariance: number[];
	/** measured features behind it */
	readings: number;
	/** pieces or coupons behind it */
	pieces: number;
}

export const Z90 = 1.645;
/** times or divided by, at 90 %: force 1.6 (spread of the methods side by side), the others own estimates */
const PRIOR_90: Record<FactorName, number> = { heat: 1.2, force: 1.6, shrinkage: 1.5, angle: 2 };

export function priorFactors(): ShopFactors {
	const covariance = new Array<number>(16).fill(0);
	FACTOR_NAMES.forEach((n, i) => (covariance[5 * i] = (Math.log(PRIOR_90[n]) / Z90) ** 2));
	return { mean: [0, 0, 0, 0], covariance, readings: 0, pieces: 0 };
}

/** Multiplier and its 90 % band. */
export function factorBand(f: ShopFactors, name: FactorName) {
	const i = FACTOR_NAMES.indexOf(name);
	const half = Z90 * Math.sqrt(f.covariance[5 * i]);
	return { value: Math.exp(f.mean[i]), low: Math.exp(f.mean[i] - half), high: Math.exp(f.mean[i] + half) };
}

/** Multipliers on force, shrinkage and angle from the logarithms: heat goes into each. */
export const multipliers = (log: ArrayLike<number>) => ({
	force: Math.exp(log[0] + log[1]),
	shrinkage: Math.exp(log[0] + log[2]),
	angle: Math.exp(log[0] + log[3])
});

export interface Observation {
	label: string;
	measured: number;
	/** standard uncertainty of the reading */
	sigma: number;
	/** the feature's forecast at given logarithms of the factors */
	predict: (log: ArrayLike<number>) => number;
}

export interface Learned {
	prior: ShopFactors;
	posterior: ShopFactors;
	rows: { label: string; measured: number; before: number; after: number; sigma: number; outlier: boolean }[];
	iterations: number;
	converged: boolean;
}

/** Model form: the linear method is not trusted closer than this share of what it predicts (own estimate). */
export const MODEL_FORM = 0.25;

/** Beyond this many standard deviations a reading pulls with a constant force instead of ever harder (Huber 1964). */
const HUBER = 2;

/** Gauss-Newton on the log-posterior. Nothing is dropped: a row beyond three standard deviations is flagged and held on a leash. */
export function learn(prior: ShopFactors, observations: readonly Observation[], pieces: number): Learned {
	const n = FACTOR_NAMES.length;
	const inverse = invert(prior.covariance, n);
	const x = Float64Array.from(prior.mean);
	const sigmas = observations.map((o) => Math.hypot(o.sigma, MODEL_FORM * o.predict(prior.mean)));
	let iterations = 0;
	let converged = observations.length === 0;
	let hessian = Float64Array.from(inverse);
	while (!converged && iterations < 50) {
		iterations++;
		hessian = Float64Array.from(inverse);
		const gradient = new Float64Array(n);
		for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) gradient[i] -= inverse[i * n + j] * (x[j] - prior.mean[j]);
		observations.forEach((o, k) => {
			const at = o.predict(x);
			const slope = slopes(o, x);
			const off = Math.abs(o.measured - at) / sigmas[k];
			const w = Math.min(1, HUBER / Math.max(off, 1e-12)) / sigmas[k] ** 2;
			for (let i = 0; i < n; i++) {
				gradient[i] += w * slope[i] * (o.measured - at);
				for (let j = 0; j < n; j++) hessian[i * n + j] += w * slope[i] * slope[j];
			}
		});
		const step = solveSmall(hessian.slice(), gradient);
		// a factor moves by at most e per iteration: far from the answer the straight line is a poor guide
		const largest = Math.max(...step.map(Math.abs));
		const f = largest > 1 ? 1 / largest : 1;
		for (let i = 0; i < n; i++) x[i] += f * step[i];
		converged = f === 1 && largest < 1e-9;
	}
	const posterior: ShopFactors = {
		mean: [...x],
		covariance: invert([...hessian], n),
		readings: prior.readings + observations.length,
		pieces: prior.pieces + pieces
	};
	return {
		prior,
		posterior,
		rows: observations.map((o, k) => {
			const after = o.predict(posterior.mean);
			return {
				label: o.label,
				measured: o.measured,
				before: o.predict(prior.mean),
				after,
				sigma: sigmas[k],
				outlier: Math.abs(o.measured - after) > 3 * sigmas[k]
			};
		}),
		iterations,
		converged
	};
}

function slopes(o: Observation, x: Float64Array): number[] {
	const h = 1e-5;
	return Array.from(x, (_, i) => {
		const up = x.slice();
		const down = x.slice();
		up[i] += h;
		down[i] -= h;
		return (o.predict(up) - o.predict(down)) / (2 * h);
	});
}

function invert(a: readonly number[], n: number): number[] {
	const out = new Array<number>(n * n).fill(0);
	for (let c = 0; c < n; c++) {
		const e = new Float64Array(n);
		e[c] = 1;
		const x = solveSmall(Float64Array.from(a), e);
		for (let r = 0; r < n; r++) out[r * n + c] = x[r];
	}
	return out;
}

/** Factors are kept per material group, thickness band and technique. */
export const THICKNESS_BANDS = ['under 1 mm', '1 to 2 mm', '2 to 3 mm', 'over 3 mm'] as const;
export const thicknessBand = (mm: number) => THICKNESS_BANDS[mm < 1 ? 0 : mm < 2 ? 1 : mm <= 3 ? 2 : 3];
