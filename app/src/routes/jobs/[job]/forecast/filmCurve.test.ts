/** A feature's way lies on its picture, rises where it rises, and shows a limit where one is near. */
import { describe, expect, it } from 'vitest';
import { curveOf } from './filmCurve';

const points = (path: string) =>
	path
		.slice(1)
		.split('L')
		.map((p) => p.split(' ').map(Number));

describe('a feature along the film', () => {
	it('goes from the first step to the last, upwards as it grows, within the picture', () => {
		const { path, x } = curveOf({ values: [0, 1, 3, 2], upper: 4 }, 4, 120, 36);
		const at = points(path);
		expect(at.map((p) => p[0])).toEqual([0, 40, 80, 120]);
		expect(at[1][1]).toBeLessThan(at[0][1]);
		expect(at[3][1]).toBeGreaterThan(at[2][1]);
		for (const [, y] of at) expect(y > 0 && y < 36).toBe(true);
		expect(x(2)).toBe(80);
	});
	it('shows both limits where they are near, and none that would press it flat', () => {
		const near = curveOf({ values: [0, 0.5], upper: 1, lower: -1 }, 2, 120, 36);
		expect(near.limits).toHaveLength(2);
		expect(near.limits[0]).toBeLessThan(near.limits[1]);
		expect(curveOf({ values: [0, 0.1], upper: 3 }, 2, 120, 36).limits).toEqual([]);
	});
	it('ends early where the film goes on, and is a flat line where nothing moves', () => {
		expect(points(curveOf({ values: [0, 1], upper: 1 }, 5, 120, 36).path).at(-1)![0]).toBe(30);
		const still = points(curveOf({ values: [0, 0, 0], upper: 1 }, 3, 120, 36).path);
		expect(new Set(still.map((p) => p[1])).size).toBe(1);
		expect(still.flat().every(Number.isFinite)).toBe(true);
	});
});
