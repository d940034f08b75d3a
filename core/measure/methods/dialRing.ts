import { f2, type MethodKind } from './method';

const USUAL = 8;

/**
 * A dial drawn round a ring that lies on three feet or turns on a table, zeroed anywhere: what goes once round is how it lies, what
 * goes twice round is its twist. The fourth of four points a quarter apart stands off the plane of the others by four times that part
 * as it is at the first of them.
 */
export const dialRing: MethodKind = {
	name: 'Dial drawn round the ring',
	unit: 'mm',
	suits: ({ round }) => round !== undefined,
	chosen: { least: 6, most: 72, usual: () => USUAL },
	labels: ({ places = USUAL }) =>
		Array.from({ length: places }, (_, i) => (i === 0 ? 'At the first corner point' : `${Number(((360 * i) / places).toFixed(1))}° on`)),
	columns: () => 4,
	reading90: 0.03,
	spread: 1,
	evaluate(heights) {
		const n = heights.length;
		const twice = (2 / n) * heights.reduce((s, z, i) => s + z * Math.cos((4 * Math.PI * i) / n), 0);
		const value = Math.abs(4 * twice);
		return {
			value,
			arithmetic: `Of ${n} readings round it, ${f2(twice)} mm goes up and down twice a turn from the first point: the fourth corner stands off by four times that, ${f2(value)} mm`,
			spread: 4 * Math.sqrt(2 / n)
		};
	}
};
