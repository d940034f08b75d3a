import { describe, expect, it } from 'vitest';
import { asItGoes, sharesOf, type Tried } from './share';

const planished = (due: number, gave: number, doubt = 0): Tried => ({ way: 'planished', due, gave, doubt });

describe('what corrections give of what was foretold', () => {
	it('nothing tried, nothing learned; what nobody could have read says nothing', () => {
		expect(sharesOf([]).size).toBe(0);
		expect(sharesOf([planished(0.05, 0.3, 0.1), planished(0, 1)]).size).toBe(0);
	});
	it('normal-normal with the variances known: the posterior mean and variance of the textbook, written out for one reading', () => {
		// prior N(1, 0.25), one of 0.5 with variance 0.09: mean (1 / 0.25 + 0.5 / 0.09) / (1 / 0.25 + 1 / 0.09), variance its inverse
		const precision = 4 + 1 / 0.09;
		const share = sharesOf([planished(2, 1)]).get('planished')!;
		expect(share.mean).toBeCloseTo((4 + 0.5 / 0.09) / precision, 12);
		expect(share.high - share.mean).toBeCloseTo(1.645 * Math.sqrt(1 / precision + 0.09), 12);
		expect(share.times).toBe(1);
	});
	it('many that give three quarters bring it there; the next still scatters', () => {
		const share = sharesOf(Array.from({ length: 200 }, () => planished(2, 1.5))).get('planished')!;
		expect(share.mean).toBeCloseTo(0.75, 2);
		expect(share.high - share.low).toBeGreaterThan(2 * 1.645 * 0.3 * 0.99);
	});
	it('what is read badly pulls less, and each way learns for itself', () => {
		const [sure, unsure] = [0, 1.5].map((doubt) => sharesOf([planished(2, 0.5, doubt)]).get('planished')!.mean);
		expect(Math.abs(sure - 1)).toBeGreaterThan(Math.abs(unsure - 1));
		expect([...sharesOf([planished(2, 1), { ...planished(2, 1), way: 'pressed' }]).keys()]).toEqual(['planished', 'pressed']);
	});
	it('an end is moved by as much of the way as is given here, its band by what is not known of that', () => {
		const share = { mean: 0.5, low: 0.2, high: 0.8, times: 3 };
		const end = asItGoes({ feature: 'f', value: 1, low: 0.6, high: 1.4 }, 5, share);
		expect(end.value).toBe(3);
		// half of its own band 0.4, and 0.3 of the 4 it was to move by
		expect(end.high - end.value).toBeCloseTo(Math.hypot(0.4, 1.2), 12);
	});
});
