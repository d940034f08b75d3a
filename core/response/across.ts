/**
 * How a seam's force lies across it, in the two even bands that the shell is loaded with: shares by sheet and band that keep the
 * force of each sheet and its mean distance from the seam, both exactly. What the shell feels beyond these two is small where
 * the bands are narrower than the panel (St Venant).
 */
import { BANDS, type Across } from './bands';

/** Force in one sheet and its mean distance from the seam. */
export interface SideForce {
	/** N */
	force: number;
	/** mm */
	distance: number;
	/** mm of sheet beside the seam */
	width: number;
}

/** @returns shares of the whole force; the amounts are for a full band, of which a narrower sheet takes its part only */
export function acrossOf(sides: readonly [SideForce, SideForce]): Across {
	const whole = sides[0].force + sides[1].force;
	const shares = sides.map(({ force, distance, width }): readonly [number, number] => {
		const [near, wide] = BANDS.map((w) => Math.min(w, width));
		const part = whole !== 0 ? force / whole : 0.5;
		// in a sheet no wider than the near band there is one place for it only
		if (wide - near < 1e-6) return [(part * BANDS[0]) / near, 0];
		const inWide = (distance - near / 2) / (wide / 2 - near / 2);
		return [(part * (1 - inWide) * BANDS[0]) / near, (part * inWide * BANDS[1]) / wide];
	});
	return [shares[0], shares[1]];
}
