/**
 * Shop factors: multipliers on what the closed forms say, log-normal, with their uncertainty. Heat acts on all three actions
 * (they err together). Updated by Bayesian regression on measured features, linearised and iterated (docs/theory/learning.md).
 */
/** Changes when the meaning of a factor changes: stored factors of another version are recomputed, never mixed. */
export const FACTOR_METHOD = 'evidence/9';

export const FACTOR_NAMES = ['heat', 'force', 'shrinkage', 'angle'] as const;
export type FactorName = (typeof FACTOR_NAMES)[number];
export const FACTOR_WORDS: Record<FactorName, string> = {
	heat: 'Heat that goes in',
	force: 'Pull along the seam',
	shrinkage: 'Shrinkage across',
	angle: 'Angular change'
};

export interface ShopFactors {
	/** mean of the natural logarithm of heat, force, shrinkage, angle */
	mean: number[];
	/** 4 x 4, row-major, of the same logarithms */
	covariance: number[];
	/** measured features behind it */
	readings: number;
	/** pieces or coupons behind it */
	pieces: number;
	/** pieces in other metal, thickness or technique that say something of it */
	borrowed?: number;
	/** by kind of feature, how many times as far as its own band says the forecast errs, factors apart; 1 where nothing is said */
	form?: Record<string, number>;
}

export const Z90 = 1.645;
export const isFactor = (label: string): boolean => (FACTOR_NAMES as readonly string[]).includes(label);
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

/** Factors are kept per material group, thickness band and technique. */
export const THICKNESS_BANDS = ['under 1 mm', '1 to 2 mm', '2 to 3 mm', 'over 3 mm'] as const;
export const thicknessBand = (mm: number) => THICKNESS_BANDS[mm < 1 ? 0 : mm < 2 ? 1 : mm <= 3 ? 2 : 3];
