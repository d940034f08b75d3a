import { describe, expect, it } from 'vitest';
import { COLOURS, colourOf, heightMapSvg, offPlane } from './heightMap';

/** Lightness of a colour, CIE 1976 L* of its luminance (IEC 61966-2-1). */
function lightness(hex: string): number {
	const lin = [1, 3, 5].map((i) => {
		const v = parseInt(hex.slice(i, i + 2), 16) / 255;
		return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
	});
	const y = 0.2126 * lin[0] + 0.7152 * lin[1] + 0.0722 * lin[2];
	return y > 0.008856 ? 116 * Math.cbrt(y) - 16 : 903.3 * y;
}

describe('heights read over a grid, as a map', () => {
	it('a tilted plane is flat; one place up stands off it by what least squares leaves of it', () => {
		const plane = Array.from({ length: 12 }, (_, i) => 2 + 0.3 * (i % 4) - 0.2 * Math.floor(i / 4));
		expect(Math.max(...offPlane(plane, 4, [300, 200]).map(Math.abs))).toBeLessThan(1e-9);
		// 2 x 2 with one corner up by 4: the plane takes three quarters, a quarter is left at each corner, signs in turn (closed form)
		const off = offPlane([0, 0, 0, 4], 2, [1000, 1000]);
		[1, -1, -1, 1].forEach((s, i) => expect(off[i]).toBeCloseTo(s, 3));
	});
	it('the scale falls away evenly to both sides of the middle in lightness, blue below and amber above', () => {
		const l = COLOURS.map(lightness);
		for (let i = 0; i < 3; i++) {
			expect(l[i + 1]).toBeGreaterThan(l[i]);
			expect(l[5 - i]).toBeGreaterThan(l[6 - i]);
			// as light on either side, so that size reads the same
			expect(Math.abs(l[i] - l[6 - i])).toBeLessThan(12);
		}
		expect(colourOf(0, 1)).toBe(COLOURS[3]);
		expect([colourOf(-5, 1), colourOf(5, 1)]).toEqual([COLOURS[0], COLOURS[6]]);
		expect(colourOf(0.3, 0)).toBe(COLOURS[3]);
	});
	it('each place has its figure, the first row lies lowest', () => {
		const svg = heightMapSvg([0.1, -0.2, 0.3, 0, 0, 1.2], 3, [300, 200], 1.2, 240);
		expect([...svg.matchAll(/>([+-]?\d\.\d)</g)].map((m) => m[1])).toEqual(['+0.1', '-0.2', '+0.3', '0.0', '0.0', '+1.2']);
		const ys = [...svg.matchAll(/<rect x="[^"]+" y="([^"]+)"/g)].map((m) => Number(m[1]));
		expect(ys[0]).toBeGreaterThan(ys[3]);
	});
});
