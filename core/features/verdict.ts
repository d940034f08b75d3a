/** `final shape`: a deeper forecast must say, for a panel is past its limit and this depth knows no waves. */
export type Verdict = 'inside' | 'in doubt' | 'outside' | 'final shape';
export const VERDICT_WORDS: Record<Verdict, string> = {
	inside: 'inside',
	'in doubt': 'in doubt',
	outside: 'outside',
	'final shape': 'wait for the final shape'
};

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
