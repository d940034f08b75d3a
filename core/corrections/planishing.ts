/**
 * A seam that pulls is metal grown too short: stretched by what it lacks it pulls no more. A tendon of section A that pulls with F lacks
 * F / E A of its length, elastic: hammered or rolled longer by that, the force is gone (bar in tension, Hooke).
 */
import { BANDS, type Across } from '../response/bands';

export interface Tendon {
	forceN: number;
	lengthMm: number;
	across: Across;
	thicknessMm: readonly [number, number];
	eMPa: readonly [number, number];
}

/** @returns mm by which the whole seam is to grow, and the width on either side that is short, mm */
export function stretchOf({ forceN, lengthMm, across, thicknessMm, eMPa }: Tendon): { stretchMm: number; widthMm: readonly [number, number] } {
	// an even band of width w has its middle at w / 2
	const widthMm = across.map(([near, wide]) => (near + wide > 0 ? (near * BANDS[0] + wide * BANDS[1]) / (near + wide) : 0)) as [number, number];
	const stiffness = eMPa[0] * thicknessMm[0] * widthMm[0] + eMPa[1] * thicknessMm[1] * widthMm[1];
	return { stretchMm: stiffness > 0 ? (forceN * lengthMm) / stiffness : 0, widthMm };
}
