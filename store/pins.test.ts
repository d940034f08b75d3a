import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEMO_PEOPLE, isPublished, SECRET, weakness } from './pins';

describe('PINs', () => {
	it.each([
		['0000', false],
		['1111', false],
		['1212', false],
		['4321', false],
		['7890', false],
		['1984', false],
		['2026', false],
		['482482', false],
		['2580', true],
		['7391', true],
		['two wet Tuesdays', true]
	])('%s', (pin, isGood) => {
		expect(weakness(pin, ['welder']) === undefined).toBe(isGood);
	});
	it('an admin needs eight; digits or any printable characters, no control characters', () => {
		expect(weakness('739162', ['planner', 'admin'])).toMatch(/8 characters/);
		expect(weakness('73916204', ['planner', 'admin'])).toBeUndefined();
		expect(['739', '12 4', 'short', 'bell\u0007 in it'].filter((p) => SECRET.test(p))).toEqual([]);
		expect(['7391', '739162048157', 'Gasse 12, hinten'].filter((p) => SECRET.test(p))).toHaveLength(3);
	});
	it('every row of any length and direction is one', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 4, max: 10 }), fc.boolean(), (from, length, isUp) => {
				const pin = Array.from({ length }, (_, i) => (from + (isUp ? i : 10 * length - i)) % 10).join('');
				return weakness(pin, ['welder']) !== undefined;
			})
		);
	});
	it('the demo people’s are good PINs, and known as published whatever the spelling', () => {
		for (const p of DEMO_PEOPLE) expect([weakness(p.pin, p.roles), isPublished(` ${p.name.toUpperCase()} `, p.pin)]).toEqual([undefined, true]);
		expect(isPublished('Ines', '7391')).toBe(false);
	});
});
