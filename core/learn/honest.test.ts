/** Coverage, drift and what the page's table holds. */
import { describe, expect, it } from 'vitest';
import { uniformFrom } from '../linalg/random';
import type { Context } from './context';
import { covered, driftOf, learnedCsv, shareOf, summaries } from './honest';
import { learnShop, type Evidence } from './shop';

const THIN: Context = { group: 'austenitic', thicknessMm: 1.5, technique: 'TIG steady', isOnBar: false };
const shopOf = (seed: number, pieces: number, moved: (i: number) => number) => {
	const u = uniformFrom(seed);
	const next = () => Math.sqrt(-2 * Math.log(1 - u())) * Math.cos(2 * Math.PI * u());
	const rows = Array.from({ length: pieces }, (_, i): Evidence[] => {
		const own = Math.exp(0.08 * next() + moved(i));
		return [0, 1].map((k) => ({
			reading: `${i}-${k}`,
			piece: `p${i}`,
			context: THIN,
			kind: k ? 'angle' : 'length',
			label: 'x',
			unit: k ? '°' : 'mm',
			// one grows with more shrinkage, the other gets less
			measured: (k ? -1 : 1) * own + 0.05 * next(),
			sigma: 0.03,
			predicted: k ? -1 : 1,
			slopes: [0, k ? -1 : 1, 0],
			spread: 0.04,
			at: i * 86_400_000
		}));
	}).flat();
	return learnShop(rows, [THIN]);
};

describe('coverage', () => {
	it('the band of a share: the score interval worked by hand for 9 of 10 and none of 5', () => {
		// z = 1.645: (p + z²/2n ± z sqrt(p(1-p)/n + z²/4n²)) / (1 + z²/n)
		expect(shareOf(9, 10).low).toBeCloseTo(0.6523, 3);
		expect(shareOf(9, 10).high).toBeCloseTo(0.9774, 3);
		expect(shareOf(0, 5)).toMatchObject({ low: 0 });
		expect(shareOf(0, 5).high).toBeCloseTo(0.3512, 3);
		expect(shareOf(0, 0)).toMatchObject({ low: 0, high: 1 });
	});
	it('by kind, and of all: what is learned from others beats the forecast as made where the shop is its own', () => {
		const shop = shopOf(2, 20, () => 0.4);
		const all = covered(shop);
		expect(all.count).toBe(40);
		expect(all.inside / all.count).toBeGreaterThan(0.8);
		const kinds = summaries(shop);
		expect(kinds.map((k) => k.kind)).toEqual(['angle', 'length']);
		for (const k of kinds) expect(k.fromOthers).toBeLessThan(0.4 * k.asMade);
	});
});

describe('drift', () => {
	it('a shop that shrinks a quarter more from its eleventh piece on is asked about, with the day', () => {
		const d = driftOf(shopOf(3, 20, (i) => (i >= 10 ? 0.25 : 0)))!;
		expect(d.chance).toBeLessThan(0.01);
		expect(Math.abs(d.since / 86_400_000 - 10)).toBeLessThanOrEqual(1);
		expect(d.after).toBeGreaterThan(d.before);
	});
	it('a steady shop is hardly ever asked: of sixty, no more than one in ten by the rule, and a few by chance', () => {
		const asked = Array.from({ length: 60 }, (_, s) => driftOf(shopOf(1000 + s, 16, () => 0))).filter(Boolean).length;
		expect(asked).toBeLessThanOrEqual(10);
	});
	it('five pieces say nothing of it', () => expect(driftOf(shopOf(3, 5, (i) => i))).toBeUndefined());
});

it('the table has a row a reading and a name a column', () => {
	const [head, ...rows] = learnedCsv(shopOf(4, 6, () => 0));
	expect(rows.length).toBe(12);
	for (const r of rows) expect(r.length).toBe(head.length);
	expect(rows[0][head.indexOf('kind')]).toBe('length');
});
