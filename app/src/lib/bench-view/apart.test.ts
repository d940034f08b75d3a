/** Taken apart, each part goes its own way as a whole. */
import { describe, expect, it } from 'vitest';
import { awayFromMiddle } from './apart';

/** Two triangles side by side, 10 mm apart along x, and a node that belongs to none. */
const two = {
	xyz: Float32Array.from([0, 0, 0, 3, 0, 0, 0, 3, 0, 10, 0, 0, 13, 0, 0, 10, 3, 0, 99, 99, 99]),
	tri: Uint32Array.from([0, 1, 2, 3, 4, 5]),
	triPart: Uint16Array.from([0, 1])
};

describe('a piece taken apart', () => {
	it('moves each part by its own middle’s way from the piece’s', () => {
		const away = awayFromMiddle(two);
		for (const n of [0, 1, 2]) expect([...away.slice(3 * n, 3 * n + 3)]).toEqual([-5, 0, 0]);
		for (const n of [3, 4, 5]) expect([...away.slice(3 * n, 3 * n + 3)]).toEqual([5, 0, 0]);
		expect([...away.slice(18)]).toEqual([0, 0, 0]);
	});
	it('leaves a piece of one part where it is', () => {
		expect(awayFromMiddle({ ...two, triPart: Uint16Array.from([0, 0]) }).every((v) => v === 0)).toBe(true);
	});
});
