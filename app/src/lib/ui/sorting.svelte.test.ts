/** Rows in the order a head asks for. */
import { describe, expect, it } from 'vitest';
import { Sorting } from './sorting.svelte';

const rows = [
	{ name: 'Tray 10', mm: 1.5 },
	{ name: 'tray 9', mm: undefined },
	{ name: 'Bin', mm: 12 },
	{ name: '', mm: 3 }
];
const made = () => new Sorting<(typeof rows)[number]>((r, c) => (c === 'name' ? r.name : r.mm));
const names = (list: { name: string }[]) => list.map((r) => r.name);

describe('a table’s order', () => {
	it('is as the rows come until a head is pressed; then up, down, and as they came', () => {
		const s = made();
		expect(names(s.of(rows))).toEqual(names(rows));
		s.turn('mm');
		expect(s.how('mm')).toBe('ascending');
		expect(s.of(rows).map((r) => r.mm)).toEqual([1.5, 3, 12, undefined]);
		s.turn('mm');
		expect(s.how('mm')).toBe('descending');
		expect(s.of(rows).map((r) => r.mm)).toEqual([12, 3, 1.5, undefined]);
		s.turn('mm');
		expect(s.how('mm')).toBe('none');
		expect(names(s.of(rows))).toEqual(names(rows));
	});
	it('takes numbers in words as numbers, capitals as small letters, and leaves its rows alone', () => {
		const s = made();
		s.turn('name');
		expect(names(s.of(rows))).toEqual(['Bin', 'tray 9', 'Tray 10', '']);
		expect(rows[0].name).toBe('Tray 10');
	});
	it('another head begins anew', () => {
		const s = made();
		s.turn('mm');
		s.turn('mm');
		s.turn('name');
		expect([s.how('name'), s.how('mm')]).toEqual(['ascending', 'none']);
	});
});
