import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaugeToMm } from './gauge';
import { formatLength, parseLength } from './length';

const mm = (text: string, unit: 'mm' | 'in' = 'mm') => {
	const r = parseLength(text, { unit, gaugeTable: 'stainless' });
	return r.ok ? r.mm : r.message;
};

describe('lengths as a shop writes them', () => {
	it.each([
		['1.5', 1.5],
		['1,5 mm', 1.5],
		['2 cm', 20],
		['1/16', 1.5875],
		['3/8 in', 9.525],
		['1 1/2"', 38.1],
		['1-1/2 in', 38.1],
		['0.060"', 1.524],
		['60 thou', 1.524],
		['16 ga', 1.588],
		['-3 mm', -3]
	])('%s is %f mm', (text, value) => expect(mm(text)).toBeCloseTo(value, 9));
	it('a bare number follows the person’s unit, a fraction is always inches', () => {
		expect(mm('2', 'in')).toBeCloseTo(50.8, 9);
		expect(mm('1/4', 'mm')).toBeCloseTo(6.35, 9);
	});
	it('a gauge is a different thickness in each metal (16 ga: 1.588, 1.519, 1.290 mm) and is refused without one', () => {
		expect([gaugeToMm(16, 'stainless'), gaugeToMm(16, 'carbon-steel'), gaugeToMm(16, 'aluminium')]).toEqual([1.588, 1.519, 1.29]);
		expect([10, 12, 14, 16, 18, 20, 22, 24].map((g) => gaugeToMm(g, 'stainless'))).toEqual([3.571, 2.778, 1.984, 1.588, 1.27, 0.953, 0.794, 0.635]);
		expect(parseLength('16 ga', { unit: 'mm' })).toMatchObject({ ok: false });
	});
	const SHAPES = /Allowed: 1\.5, 1\.5 mm, 1\/16, 3\/8 in/;
	it.each([
		['', /Type a length, for example 600, 23 5\/8 in/],
		['abc', SHAPES],
		['1/0', /“1\/0” divides by zero/],
		['1//2', SHAPES],
		['13 ga', /Gauge 13 is not in the table .*10 to 24, even/],
		['--2', SHAPES],
		['NaN', SHAPES],
		['Infinity', SHAPES],
		['1e400', SHAPES],
		['5 ft', SHAPES]
	] as const)('refuses “%s”, naming it, and says what is allowed', (text, says) => {
		const r = parseLength(text, { unit: 'mm', gaugeTable: 'stainless' });
		expect(r.ok).toBe(false);
		if (r.ok) return;
		expect(r.message).toMatch(says);
		if (says === SHAPES) expect(r.message).toContain(`“${text}”`);
	});
	it('what is shown can be typed back', () =>
		fc.assert(
			fc.property(fc.double({ min: 0.01, max: 4000, noNaN: true }), fc.constantFrom('mm' as const, 'in' as const), (v, unit) => {
				const r = parseLength(formatLength(v, unit), { unit });
				expect(r.ok && Math.abs(r.mm - v) < 0.02).toBe(true);
			})
		));
});
