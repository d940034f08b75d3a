/** What a new piece will be, before it is made: against plain arithmetic. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '.';
import { previewOf } from './preview';

describe('a preview', () => {
	it('of two plates: their weight, one seam, one blank twice', () => {
		const { preview } = previewOf('butt-panel', { widthsMm: [200, 200], lengthMm: 500, thicknessMm: 2, material: '1.4301', fit: 'cut' });
		// 0.4 x 0.5 m of 2 mm at 7900 kg/m3 (EN 10088-1, from memory)
		expect(preview!.weightKg).toBeCloseTo(0.4 * 0.5 * 0.002 * 7900, 3);
		expect([preview!.seams, preview!.seamMm]).toEqual([1, 500]);
		expect(preview!.blanks).toEqual([{ name: 'Blank 1', count: 2, widthMm: 200, heightMm: 500, thicknessMm: 2 }]);
	});
	it.each(MADE_FAMILIES)('%s is drawn, weighs something and is welded somewhere', (kind) => {
		const { preview } = previewOf(kind, FAMILY_DEFAULTS[kind]);
		const { drawing, weightKg, seamMm, blanks } = preview!;
		expect(drawing.lines.length).toBeGreaterThan(1);
		expect(drawing.seams.some((s) => s.isSeen)).toBe(true);
		for (const n of [weightKg, seamMm, drawing.width, drawing.height]) expect(n).toBeGreaterThan(0);
		expect(blanks.reduce((n, b) => n + b.count, 0)).toBeGreaterThan(0);
	});
	it('sizes that make no piece are named, and nothing is drawn', () => {
		const { preview, faults } = previewOf('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 5 });
		expect(preview).toBeUndefined();
		expect(faults[0].field).toBe('family.parameters.lengthMm');
	});
});
