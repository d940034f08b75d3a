import { describe, expect, it } from 'vitest';
import { factorBand, multipliers, priorFactors, thicknessBand } from './factors';

describe('shop factors', () => {
	it('without readings the prior stands: force times or divided by 1.6 at 90 %', () => {
		const f = factorBand(priorFactors(), 'force');
		expect(f.value).toBe(1);
		expect(f.high).toBeCloseTo(1.6, 9);
		expect(f.low).toBeCloseTo(1 / 1.6, 9);
	});
	it('heat goes into all three actions', () => {
		const m = multipliers([Math.log(1.2), 0, Math.log(0.5), Math.log(2)]);
		expect(m.force).toBeCloseTo(1.2, 12);
		expect(m.shrinkage).toBeCloseTo(0.6, 12);
		expect(m.angle).toBeCloseTo(2.4, 12);
	});
	it('thickness bands', () => expect([0.8, 1.5, 3, 4].map(thicknessBand)).toEqual(['under 1 mm', '1 to 2 mm', '2 to 3 mm', 'over 3 mm']));
});
