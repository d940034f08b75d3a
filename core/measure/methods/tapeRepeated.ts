import { f2, nominalOf, three, type MethodKind } from './method';

/** Student's t that holds 90 % either way with two degrees of freedom (JCGM 100:2008, table G.2). */
const T90_OF_THREE = 2.92;

/** The tape laid on anew each time: what the hand does shows in the scatter. */
export const tapeRepeated: MethodKind = {
	name: 'Tape, laid on three times',
	unit: 'mm',
	labels: ({ over }) => [1, 2, 3].map((i) => (over ? `Time ${i}, ${over}` : `Time ${i}`)),
	columns: three,
	reading90: 0.5,
	spread: 1,
	least: { value: 0, isAllowed: false },
	evaluate(readings, context) {
		const n = readings.length;
		const mean = readings.reduce((s, r) => s + r, 0) / n;
		const scatter = Math.sqrt(readings.reduce((s, r) => s + (r - mean) ** 2, 0) / (n - 1));
		const value = mean - nominalOf(context);
		return {
			value,
			arithmetic: `Average of ${readings.map(f2).join(', ')} is ${f2(mean)}; - ${f2(nominalOf(context))} (drawing) = ${f2(value)} mm`,
			// what the tape itself may be wrong by stays, however often it is laid on
			scatter90: (T90_OF_THREE * scatter) / Math.sqrt(n)
		};
	}
};
