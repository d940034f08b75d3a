/** The glossary reads the page of the docs whole, and what is typed finds what it names. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { DRAWINGS } from './drawings';
import { entriesOf, find } from './glossary';
import { KEYS, TOPICS } from './topics';

/** Of the letters the drawings use: M, L, Q absolute with H and V, and l, h, v relative. */
function boundsOf(d: string): [number, number, number, number] {
	let [x, y] = [0, 0];
	const [xs, ys]: number[][] = [[], []];
	for (const [, letter, rest] of d.matchAll(/([MLQHVlhvz])([^MLQHVlhvz]*)/g)) {
		const v = (rest.match(/-?[\d.]+/g) ?? []).map(Number);
		if (letter === 'H') x = v[0];
		else if (letter === 'V') y = v[0];
		else if (letter === 'h') x += v[0];
		else if (letter === 'v') y += v[0];
		else if (letter === 'l') [x, y] = [x + v[0], y + v[1]];
		else if (letter !== 'z') [x, y] = v.slice(-2);
		if (letter === 'z') continue;
		xs.push(x);
		ys.push(y);
	}
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

const page = readFileSync('docs/glossary.md', 'utf8');

describe('help', () => {
	const entries = entriesOf(page);
	it('has every row of the glossary and no head of a table', () => {
		const rows = page.split('\n').filter((l) => l.startsWith('|')).length;
		const tables = page.split('\n').filter((l) => /^\|[\s|:-]+$/.test(l)).length;
		expect(entries).toHaveLength(rows - 2 * tables);
		expect(entries.find((e) => e.here.startsWith('planishing'))!.is).toMatch(/hammering or rolling/);
	});
	it('finds by all words typed, in any order, by what others call it too, and titles first', () => {
		const of = (typed: string) =>
			find(
				entries,
				typed,
				(e) => e.here,
				(e) => `${e.also} ${e.is}`
			).map((e) => e.here);
		expect(of('heat sink')).toContain('bar, chill block');
		expect(of('tack')[0]).toMatch(/tack/);
		expect(of('zebra')).toEqual([]);
		expect(of('')).toHaveLength(entries.length);
		expect(of('pull  true preset')).toEqual(of('preset true pull'));
	});
	it('each drawing is of a word that is there, and stays inside its frame', () => {
		const words = new Set(entries.map((e) => e.here));
		for (const [word, shapes] of Object.entries(DRAWINGS)) {
			expect(words, word).toContain(word);
			for (const [is, d] of shapes) {
				const [x0, y0, x1, y1] = boundsOf(d);
				expect(x0 >= 0 && y0 >= 0 && x1 <= 72 && y1 <= 44, `${word}, ${is}: ${[x0, y0, x1, y1].join(' ')}`).toBe(true);
			}
		}
	});
	it('topics and keys are told once each', () => {
		expect(new Set(TOPICS.map((t) => t.title)).size).toBe(TOPICS.length);
		for (const k of KEYS) expect(new Set(k.keys.map(([key]) => key)).size).toBe(k.keys.length);
	});
});
