import { f2, mustReach, nominalOf, three, type MethodKind } from './method';

const DEG = 180 / Math.PI;

/** A square stands inside the fold; where its leg and the face part, a feeler finds how far. */
export const square: MethodKind = {
	name: 'Square and gap, inside the fold',
	unit: '°',
	readsIn: 'mm',
	labels: () => ['From the corner to the gap', 'Gap there; minus where the gap is in the corner'],
	columns: three,
	reading90: 0.1,
	spread: 1,
	evaluate([reach, gap], context) {
		mustReach(reach, 'From the corner to the gap');
		const read = 90 + DEG * Math.atan2(gap, reach);
		const value = read - nominalOf(context);
		return {
			value,
			arithmetic: `90 + atan(${f2(gap)} / ${f2(reach)}) = ${f2(read)}°; - ${f2(nominalOf(context))}° (drawing) = ${f2(value)}°`,
			// both readings alike uncertain: the slope of the angle by either, added as independent (GUM 5.1.2)
			spread: DEG / Math.hypot(reach, gap)
		};
	}
};
