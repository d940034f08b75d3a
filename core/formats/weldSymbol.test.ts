/** Weld symbols after ISO 2553 and process numbers of ISO 4063 (both from memory). */
import { describe, expect, it } from 'vitest';
import type { Joint } from '../document/schema';
import { PROCESS_NUMBERS, symbolOf, symbolSvg } from './weldSymbol';

const joint = (change: Partial<Joint>): Joint => ({
	id: 'j',
	name: 'J',
	type: 'tee',
	a: { part: 'a', path: [] },
	b: { part: 'b', path: [] },
	gapMm: 0,
	gapMeasured: false,
	presetDeg: 0,
	penetration: 'full',
	filler: false,
	weldSide: 'front',
	settings: 'main',
	...change
});

describe('weld symbols', () => {
	it('a fillet of 3 mm leg, 120 long, by TIG: z3, triangle, 120, 141, on the arrow side', () =>
		expect(symbolOf(joint({ weldSizeMm: 3 }), 120, 1.5, 'TIG', false)).toEqual({
			symbol: 'fillet',
			size: 'z3',
			length: '120',
			tail: '141',
			arrowSide: true,
			closed: false
		}));
	it('a full butt names no size; a partial one names its penetration; the other side goes on the dashed line; rings are all round', () => {
		expect(symbolOf(joint({ type: 'butt' }), 80, 1.5, 'MIG', false)).toMatchObject({ symbol: 'square-butt', size: '', tail: '131' });
		const s = symbolOf(joint({ type: 'butt', penetration: 'partial', weldSide: 'back' }), 80, 2, 'MMA', true);
		expect(s).toMatchObject({ size: 's1.2', arrowSide: false, closed: true, tail: '111' });
		expect(symbolSvg(s)).toContain('<circle');
		expect(PROCESS_NUMBERS).toEqual({ TIG: '141', MIG: '131', MMA: '111' });
	});
	it('corner edges take the edge weld’s symbol, laps and ports a fillet’s; the drawing holds no text but numbers', () => {
		for (const [type, symbol] of [
			['corner-edge', 'edge'],
			['lap', 'fillet'],
			['port', 'fillet']
		] as const) {
			const s = symbolOf(joint({ type, name: '<script>' }), 50, 1.5, 'TIG', false);
			expect(s.symbol).toBe(symbol);
			expect(symbolSvg(s)).not.toMatch(/script|NaN|undefined/);
		}
	});
});
