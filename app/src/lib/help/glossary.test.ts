/** The glossary reads the page of the docs whole, and what is typed finds what it names. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { entriesOf, find } from './glossary';
import { KEYS, TOPICS } from './topics';

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
	it('topics and keys are told once each', () => {
		expect(new Set(TOPICS.map((t) => t.title)).size).toBe(TOPICS.length);
		for (const k of KEYS) expect(new Set(k.keys.map(([key]) => key)).size).toBe(k.keys.length);
	});
});
