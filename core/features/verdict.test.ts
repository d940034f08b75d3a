import { describe, expect, it } from 'vitest';
import { verdictOf } from './verdict';

describe('what a reading says of a limit (ISO 14253-1:2017, from memory: proved with 95 % at the limit, 1.65 standard uncertainties)', () => {
	it('10.0 +- 0.1 mm read with a standard uncertainty of 0.01: proved inside from 9.9165 to 10.0835, proved outside beyond 10.1165', () => {
		const says = (read: number) => verdictOf({ upper: 0.1, lower: -0.1 }, read - 10 - 1.65 * 0.01, read - 10 + 1.65 * 0.01);
		expect([9.917, 10, 10.083].map(says)).toEqual(['inside', 'inside', 'inside']);
		expect([9.9, 9.916, 10.084, 10.1, 10.116].map(says)).toEqual(Array(5).fill('in doubt'));
		expect([9.883, 10.117].map(says)).toEqual(['outside', 'outside']);
	});
	it('of a form error only the upper limit counts', () => {
		expect([0, 0.2, 0.44, 0.5, 0.56].map((v) => verdictOf({ upper: 0.5 }, v - 0.05, v + 0.05))).toEqual([
			'inside',
			'inside',
			'inside',
			'in doubt',
			'outside'
		]);
	});
});
