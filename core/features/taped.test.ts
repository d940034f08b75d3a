/** A tape lies on faces, not in the middle of a sheet: sizes as they were asked for come back as what a tape would read. */
import { describe, expect, it } from 'vitest';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { distance } from '../geometry/vec';
import { readingContext } from './context';
import { tapeEnds, tapeWords } from './taped';

function plan(family: keyof typeof FAMILY_DEFAULTS, more: object = {}): PlanDocument {
	const made = newPlan(family, { ...FAMILY_DEFAULTS[family], ...more } as never);
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
}
const named = (p: PlanDocument, id: string) => p.features.find((f) => f.id === id)!;
const reads = (p: PlanDocument, id: string) => readingContext(named(p, id), p).nominal!;
const wordsOf = (p: PlanDocument, id: string) => tapeWords(named(p, id), tapeEnds(named(p, id), p));
const as = (p: PlanDocument, id: string, over: 'inside' | 'outside' | 'same-side') =>
	readingContext({ ...named(p, id), over } as AnyFeature, p).nominal!;

describe('what a tape reads by the drawing', () => {
	it.each([1, 1.5, 3])(
		'a trough is asked for by its inside: the tape reads just those sizes inside, two sheets more outside (%s mm)',
		(thicknessMm) => {
			for (const [body, rimFlangeMm] of [
				['cross-blank', 0],
				['cross-blank', 20],
				['five-plates', 0],
				['u-body', 0],
				['u-body', 20]
			] as const) {
				const p = plan('open-trough', { thicknessMm, body, lengthMm: 610, widthMm: 320, depthMm: 205, rimFlangeMm });
				expect(reads(p, 'mouth-width'), body).toBeCloseTo(320, 3);
				expect(reads(p, 'mouth-length'), body).toBeCloseTo(610, 3);
				expect(as(p, 'mouth-width', 'outside'), body).toBeCloseTo(320 + 2 * thicknessMm, 3);
				expect(as(p, 'mouth-length', 'outside'), body).toBeCloseTo(610 + 2 * thicknessMm, 3);
				// a diagonal goes from inner corner to inner corner
				expect(reads(p, 'mouth-square'), body).toBeCloseTo(Math.hypot(610, 320), 3);
			}
		}
	);
	it('a tube is asked for by its outside, and is taped over it', () => {
		const p = plan('cylinder', { diameterMm: 300 });
		for (const id of ['dia-1', 'dia-2']) expect(Math.abs(reads(p, id) - 300)).toBeLessThan(0.8);
	});
	it('from edge to edge of a flat panel nothing is added; a pitch keeps its sheets out of it', () => {
		const flat = plan('butt-panel');
		expect(reads(flat, 'width')).toBeCloseTo(500, 6);
		expect(wordsOf(flat, 'width')).toBe('edge to edge');
		const rail = plan('manifold');
		const ends = tapeEnds(named(rail, 'pitch'), rail);
		expect(distance(ends[0], ends[1])).toBeLessThan(1e-6);
		expect(wordsOf(rail, 'pitch')).toBe('same side to same side');
	});
	it('a frame of tubes is taped over its outer faces', () => {
		const p = plan('mitred-frame');
		expect(as(p, 'width', 'outside') - as(p, 'width', 'inside')).toBeCloseTo(2 * p.parts[0].thicknessMm, 3);
	});
	it('no tape, no ends', () => {
		const p = plan('open-trough');
		expect(wordsOf(p, 'floor-flat')).toBeUndefined();
		expect(tapeEnds(named(p, 'floor-flat'), p).every((v) => v.every((x) => x === 0))).toBe(true);
	});
});
