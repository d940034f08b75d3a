import { COLOURS } from '$core/draw/heightMap';

/** Deviation: a diverging map with even steps of lightness, blue below, bronze above, pale in the middle; never a rainbow. The same on screen and on paper. */
const STOPS = COLOURS.map((hex) => [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16) / 255));

/** @param v -1 to 1; @returns r, g, b, 0 to 1 */
export function diverging(v: number): [number, number, number] {
	const at = ((Math.max(-1, Math.min(1, v)) + 1) / 2) * (STOPS.length - 1);
	const i = Math.min(STOPS.length - 2, Math.floor(at));
	const f = at - i;
	return [0, 1, 2].map((k) => STOPS[i][k] + f * (STOPS[i + 1][k] - STOPS[i][k])) as [number, number, number];
}

/** A colour a run can wear by when it is laid: straw first, blue last; text beside it always says the number. */
export function byWhen(share: number): string {
	const a = [217, 164, 65];
	const b = [138, 58, 104];
	// lighter than the plum, so that they part without red or green cones too
	const c = [57, 115, 159];
	const mix = (p: number[], q: number[], f: number) => `rgb(${p.map((v, i) => Math.round(v + f * (q[i] - v))).join(', ')})`;
	return share < 0.5 ? mix(a, b, share * 2) : mix(b, c, share * 2 - 1);
}
