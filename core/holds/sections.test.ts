/** Sections of strongbacks against rolled ones from tables, and what a strongback does against a beam. */
import { describe, expect, it } from 'vitest';
import { angleBar, BAR_SECTIONS, barOf, channelBar, flatBar, squareTube } from './sections';

describe('bar sections', () => {
	it('a flat on edge: b h^3 / 12 both ways, b t^3 / 3 for torsion (worked by hand)', () =>
		expect(flatBar(40, 6)).toEqual({ areaMm2: 240, iOutMm4: 32_000, iInMm4: 720, torsionMm4: 2880, offsetMm: 20 }));
	it('equal angle 40 x 4 of EN 10056-1: 308 mm2, 4.47 cm4, 11.2 mm to its centroid (from memory; rounded corners against sharp ones)', () => {
		const s = angleBar(40, 4);
		expect(Math.abs(s.areaMm2 / 308 - 1)).toBeLessThan(0.02);
		expect(Math.abs(s.iOutMm4 / 44_700 - 1)).toBeLessThan(0.04);
		expect(s.iInMm4).toBeCloseTo(s.iOutMm4, 6);
		expect(Math.abs(s.offsetMm - 11.2)).toBeLessThan(0.4);
	});
	it('square tube 40 x 3 of EN 10219-2: 421 mm2, 9.32 cm4 and 15.8 cm4 in torsion (from memory; its corners are round, ours sharp)', () => {
		const s = squareTube(40, 3);
		expect(Math.abs(s.areaMm2 / 421 - 1)).toBeLessThan(0.06);
		expect(s.iOutMm4 / 93_200).toBeGreaterThan(1);
		expect(s.iOutMm4 / 93_200).toBeLessThan(1.12);
		expect(Math.abs(s.torsionMm4 / 158_000 - 1)).toBeLessThan(0.06);
	});
	it('a channel, its flanges down: by the whole less the hollow (b h^3 - b1 h1^3 over 12 in its own plane)', () => {
		const s = channelBar(40, 20, 3);
		expect(s.areaMm2).toBe(40 * 20 - 34 * 17);
		expect(s.iInMm4).toBeCloseTo((20 * 40 ** 3 - 17 * 34 ** 3) / 12, 6);
		// the centroid lies nearer the web
		expect(s.offsetMm).toBeGreaterThan(10);
	});
	it('each bar is known again by its section, and a section of the shop’s own is none of them', () => {
		for (const b of BAR_SECTIONS) expect(barOf(b.section)).toBe(b);
		expect(barOf({ areaMm2: 240, iOutMm4: 33_000 })).toBeUndefined();
	});
});
