import { f2, three, type MethodKind } from './method';

export const rock: MethodKind = {
	name: 'Rock test: feeler under the high corner',
	unit: 'mm',
	labels: () => ['Feeler under the corner that lifts'],
	columns: three,
	reading90: 0.1,
	spread: 1,
	least: { value: 0, isAllowed: true },
	evaluate([feeler]) {
		return { value: feeler, arithmetic: `Feeler ${f2(feeler)} mm under the fourth corner, the other three touching` };
	}
};
