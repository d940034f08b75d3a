import { f2, nominalOf, three, type MethodKind } from './method';

export const angle: MethodKind = {
	name: 'Angle between faces',
	unit: '°',
	labels: () => ['Angle'],
	columns: three,
	reading90: 0.2,
	spread: 1,
	evaluate([read], context) {
		const value = read - nominalOf(context);
		return { value, arithmetic: `${f2(read)}° - ${f2(nominalOf(context))}° (drawing) = ${f2(value)}°` };
	}
};
