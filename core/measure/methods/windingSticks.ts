import { Refusal } from '../../refusal/refusal';
import { f2, mustReach, three, type MethodKind } from './method';

/** Two straight sticks across the ends, sighted one over the other: they show the turn of one end against the other, made longer. */
export const windingSticks: MethodKind = {
	name: 'Winding sticks across the two ends',
	unit: 'mm',
	labels: () => ['Length of a stick', 'How far its end stands off the other’s, by eye over both'],
	columns: three,
	reading90: 0.5,
	spread: 1,
	evaluate([stick, off], { sizeMm }) {
		mustReach(stick, 'Length of a stick');
		if (!sizeMm) throw new Refusal('The sides of this feature are not known');
		const [across] = sizeMm;
		const value = Math.abs((off * across) / stick);
		return {
			value,
			arithmetic: `${f2(Math.abs(off))} mm over a stick of ${f2(stick)}, on a side of ${f2(across)}: ${f2(value)} mm`,
			spread: (across / stick) * Math.hypot(1, off / stick)
		};
	}
};
