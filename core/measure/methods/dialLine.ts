import { bowFromEnds } from '../straightness';
import type { Vec3 } from '../../geometry/vec';
import { f2, type MethodKind } from './method';

const USUAL = 7;

/** A dial drawn along the line on its stand, zeroed anywhere: the ends give the line, the rest how far they stand off it. */
export const dialLine: MethodKind = {
	name: 'Dial drawn along the line',
	unit: 'mm',
	chosen: { least: 3, most: 60, usual: () => USUAL },
	labels: ({ places = USUAL }) =>
		Array.from({ length: places }, (_, i) => (i === 0 ? 'One end' : i === places - 1 ? 'Other end' : `Place ${i + 1} of ${places}`)),
	columns: () => 4,
	reading90: 0.03,
	spread: 1,
	evaluate(heights, { lengthMm = 1 }) {
		const last = heights.length - 1;
		const points = heights.map((z, i): Vec3 => [(lengthMm * i) / last, 0, z]);
		const value = bowFromEnds(points);
		const off = heights.map((z, i) => Math.abs(z - heights[0] - ((heights[last] - heights[0]) * i) / last));
		const at = off.indexOf(Math.max(...off));
		const share = at / last;
		return {
			value,
			arithmetic: `Ends read ${f2(heights[0])} and ${f2(heights[last])}; place ${at + 1} stands ${f2(value)} mm off the line between them`,
			// one reading at the place, and the line under it from both ends
			spread: Math.hypot(1, 1 - share, share)
		};
	}
};
