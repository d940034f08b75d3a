/** A flat bar behind a seam of a rolled wall touches at its two edges and stands off at the seam: it has to be shaped to the wall. */
import type { Joint, Part } from '../document/schema';

/** A gap below this is closed by the clamps, mm (own estimate). */
const CLOSED_MM = 0.1;

export interface Curve {
	/** of the wall's inside, mm */
	radiusMm: number;
	/** the seam runs along the roll's axis, or round it */
	runs: 'along' | 'round';
}

/** The rolled wall that a seam lies on, where it lies on one: both its sides along, or either round. */
export function curveOf(joint: Joint, parts: readonly Pick<Part, 'id' | 'roll' | 'thicknessMm'>[]): Curve | undefined {
	for (const side of [joint.a, joint.b]) {
		const part = parts.find((p) => p.id === side.part);
		if (!part?.roll) continue;
		const [p, q] = [side.path[0], side.path[side.path.length - 1]];
		const hoop = Math.abs(q[part.roll.hoop === 'x' ? 0 : 1] - p[part.roll.hoop === 'x' ? 0 : 1]);
		const axis = Math.abs(q[part.roll.hoop === 'x' ? 1 : 0] - p[part.roll.hoop === 'x' ? 1 : 0]);
		return { radiusMm: part.roll.radiusMm - part.thicknessMm / 2, runs: axis > hoop ? 'along' : 'round' };
	}
	return undefined;
}

/** mm that a flat face of this width stands off a curve in its middle (sagitta). */
export const standsOff = (widthMm: number, radiusMm: number): number =>
	widthMm >= 2 * radiusMm ? radiusMm : radiusMm - Math.sqrt(radiusMm ** 2 - (widthMm / 2) ** 2);

/** How a bar is to be shaped, in words; empty where it fits as it is. */
export function shapeWords(widthMm: number, curve: Curve | undefined, length: (mm: number) => string): string {
	if (!curve) return '';
	if (curve.runs === 'round') return `, bent to a ring of R ${length(curve.radiusMm)}`;
	const off = standsOff(widthMm, curve.radiusMm);
	return off > CLOSED_MM ? `, its face shaped to R ${length(curve.radiusMm)} (flat it stands ${off.toFixed(1)} mm off at the seam)` : '';
}
