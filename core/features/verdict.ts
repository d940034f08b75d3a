export type Verdict = 'inside' | 'in doubt' | 'outside';

/**
 * Against the tolerance: the whole band inside, the whole band outside, or neither. @param isUnsure something behind the numbers lies
 * outside what the methods can speak of: nothing is inside then
 */
export function verdictOf(tolerance: { upper: number; lower?: number }, low: number, high: number, isUnsure = false): Verdict {
	const bottom = tolerance.lower ?? -Infinity;
	if (low >= bottom && high <= tolerance.upper) return isUnsure ? 'in doubt' : 'inside';
	if (high < bottom || low > tolerance.upper) return 'outside';
	return 'in doubt';
}
