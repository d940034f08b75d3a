import { f2, mustReach, nominalOf, three, type MethodKind } from './method';

/** A tape laid round a rolled wall: what it reads, over pi, is the mean diameter, however oval it is. */
export const piTape: MethodKind = {
	name: 'Tape round it: circumference',
	unit: 'mm',
	suits: ({ outsideMm }) => outsideMm !== undefined,
	labels: () => ['Circumference, outside'],
	columns: three,
	reading90: 0.5,
	// over pi, and the tape runs a little slack or askew (own estimate): it reads no shorter than it is
	spread: 1.5 / Math.PI,
	least: { value: 0, isAllowed: false },
	evaluate([read], context) {
		mustReach(read, 'Circumference');
		const diameter = read / Math.PI;
		const drawn = context.outsideMm ?? nominalOf(context);
		return { value: diameter - drawn, arithmetic: `${f2(read)} / pi = ${f2(diameter)}; - ${f2(drawn)} (drawing) = ${f2(diameter - drawn)} mm` };
	}
};
