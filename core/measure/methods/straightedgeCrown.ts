import { f2, three, type MethodKind } from './method';

/** The rule lies on the high side and rocks: however it leans, the gaps at its two ends together are twice what the middle stands up. */
export const straightedgeCrown: MethodKind = {
	name: 'Straightedge on the crown, gaps at both ends',
	unit: 'mm',
	labels: () => ['Gap at one end', 'Gap at the other end'],
	columns: three,
	reading90: 0.1,
	spread: Math.SQRT1_2,
	least: { value: 0, isAllowed: true },
	evaluate([one, other]) {
		const value = (one + other) / 2;
		return { value, arithmetic: `(${f2(one)} + ${f2(other)}) / 2 = ${f2(value)} mm that the middle stands over the ends` };
	}
};
