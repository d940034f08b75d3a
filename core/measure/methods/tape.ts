import { f2, nominalOf, three, type MethodKind } from './method';

export const tape: MethodKind = {
	name: 'Tape length',
	unit: 'mm',
	labels: ({ over }) => [over ? `Length, ${over}` : 'Length'],
	columns: three,
	reading90: 0.5,
	spread: 1,
	least: { value: 0, isAllowed: false },
	evaluate([read], context) {
		const value = read - nominalOf(context);
		return { value, arithmetic: `${f2(read)} - ${f2(nominalOf(context))} (drawing) = ${f2(value)} mm` };
	}
};
