/** The moving arc's mesh written for another solver. */
import { describe, expect, it } from 'vitest';
import { gridOf } from '../hot/grid';
import { arcMetal } from '../hot/metal';
import { ORDINARY_ARC, type HotSeam } from '../hot/seam';
import { findMaterial } from '../materials/grades';
import { Refusal } from '../refusal/refusal';
import { writeHotDeck } from './hotDeck';

const seam: HotSeam = {
	lengthMm: 40,
	sheets: [{ widthMm: 30, thicknessMm: 1.5, metal: arcMetal(findMaterial('1.4301'), { forgets: false }), grips: [] }],
	heat: 160,
	speed: 2.5,
	runs: [{ fromMm: 0, toMm: 40, waitS: 0 }],
	tacks: [],
	welded: [],
	isOnePiece: true,
	gapMm: 0,
	startC: 20,
	ambientC: 20,
	air: 15e-6,
	arc: ORDINARY_ARC,
	mesh: { alongMm: 5, stepS: 1, firstMm: 2 }
};

describe('a deck of the moving arc', () => {
	const grid = gridOf(seam);
	const fields = [300, 20].map((c) => new Float32Array(grid.nodes).fill(c));
	const lines = writeHotDeck(seam, grid, fields).split('\n');
	const rowsAfter = (word: string) => {
		const from = lines.findIndex((l) => l.startsWith(word)) + 1;
		const to = lines.findIndex((l, i) => i >= from && l.startsWith('*'));
		return lines.slice(from, to).map((l) => l.split(',').map(Number));
	};
	it('has each node and each middle of a side once, and eight nodes that exist to every rectangle', () => {
		const nodes = rowsAfter('*NODE');
		// a rectangle mesh has (columns - 1) rows + columns (rows - 1) sides
		const [nx, ny] = [grid.x.length, grid.y.length];
		expect(nodes).toHaveLength(nx * ny + (nx - 1) * ny + nx * (ny - 1));
		const ids = new Set(nodes.map((n) => n[0]));
		expect(ids.size).toBe(nodes.length);
		const elements = rowsAfter('*ELEMENT');
		expect(elements).toHaveLength(grid.elements);
		for (const e of elements) {
			expect(new Set(e.slice(1)).size).toBe(8);
			expect(e.slice(1).every((n) => ids.has(n))).toBe(true);
		}
		// the fifth node of an element lies half way between its first two
		const place = new Map(nodes.map(([id, x, y]) => [id, [x, y]]));
		const [, a, b, , , middle] = elements[7];
		expect(place.get(middle)![0]).toBeCloseTo((place.get(a)![0] + place.get(b)![0]) / 2, 6);
	});
	it('gives every node its temperature in every step, and prints at the end only', () => {
		expect(lines.filter((l) => l === '*TEMPERATURE')).toHaveLength(2);
		expect(lines.filter((l) => /, 300\.000$/.test(l)).length).toBe(rowsAfter('*NODE').length);
		expect(lines.filter((l) => l.startsWith('*EL PRINT'))).toHaveLength(1);
	});
	it('refuses what has no word there', () => {
		const open = { ...seam, isOnePiece: false, welded: [[0, 40]] as const };
		expect(() => writeHotDeck(open, grid, fields)).toThrow(Refusal);
		const forgetful: HotSeam = { ...seam, sheets: [{ ...seam.sheets[0], metal: arcMetal(findMaterial('1.4301')) }] };
		expect(() => writeHotDeck(forgetful, grid, fields)).toThrow(/forgets nothing/);
	});
});
