import { Refusal } from '../../refusal/refusal';
import { f2, mustReach, three, type MethodKind } from './method';

/** Difference of the diagonals of a parallelogram with these sides whose corner is off square by this, mm (law of cosines). */
function diagonals([w, h]: readonly [number, number], offRad: number): number {
	const half = 2 * w * h * Math.sin(offRad);
	return Math.sqrt(w * w + h * h + half) - Math.sqrt(w * w + h * h - half);
}

/** A square laid in one corner. It speaks for the whole where opposite sides are of one length. */
export const cornerSquare: MethodKind = {
	name: 'Square and gap in one corner, opposite sides alike',
	unit: 'mm',
	labels: () => ['From the corner to the gap', 'Gap there; minus where the gap is in the corner'],
	columns: three,
	reading90: 0.1,
	spread: 1,
	evaluate([reach, gap], { sizeMm }) {
		mustReach(reach, 'From the corner to the gap');
		if (!sizeMm) throw new Refusal('The sides of this feature are not known');
		const off = Math.atan2(gap, reach);
		const value = Math.abs(diagonals(sizeMm, off));
		const [w, h] = sizeMm;
		// slope of the difference by the angle at square, and of the angle by either reading
		const slope = (2 * w * h) / Math.hypot(w, h) / Math.hypot(reach, gap);
		return {
			value,
			arithmetic: `Off square by atan(${f2(gap)} / ${f2(reach)}) = ${f2((off * 180) / Math.PI)}°; on sides of ${f2(w)} and ${f2(h)} the diagonals differ by ${f2(value)} mm`,
			spread: slope
		};
	}
};
