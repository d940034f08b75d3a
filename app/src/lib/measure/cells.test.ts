/** Cells of a reading as a person types them. */
import { describe, expect, it } from 'vitest';
import { readCell } from './cells';

describe('a cell', () => {
	it.each([
		['0.25', 'mm', 0.25],
		['0,25', 'mm', 0.25],
		['-1.5', 'mm', -1.5],
		['3/8', 'mm', 9.525],
		['1 1/2', 'in', 38.1],
		['0.010', 'in', 0.254],
		['10 thou', 'mm', 0.254],
		['2 mm', 'in', 2]
	] as const)('“%s” where %s are meant is %f mm', (text, unit, mm) => {
		const read = readCell(text, 'mm', unit);
		expect('value' in read && read.value).toBeCloseTo(mm, 9);
	});
	it('degrees are numbers and nothing else', () => {
		expect(readCell('89,5', '°', 'in')).toEqual({ value: 89.5 });
		expect(readCell('3/8', '°', 'in')).toHaveProperty('wrong');
	});
	it('says what it could not read', () => {
		const read = readCell('a bit', 'mm', 'mm');
		expect('wrong' in read && read.wrong).toMatch(/“a bit” is not a length/);
	});
});
