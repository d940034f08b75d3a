import { evenly, SHARED, type TackSchool } from './school';

/** Tacks of one stitch. */
const STITCH = 3;

export const stitch: TackSchool = {
	name: 'Stitches: short rows instead of single tacks',
	advice: 'Where single tacks crack (aluminium of the 5xxx grades, springy work): a row of three that share the load.',
	start: { ...SHARED, locateMm: 75, closeMm: 8, lengthMm: 5, fusionOnly: false },
	fields: [
		{ field: 'locateMm', label: 'A stitch every', minMm: 10, maxMm: 500 },
		{ field: 'closeMm', label: 'In the row, every', minMm: 5, maxMm: 60 }
	],
	whyNot: (_, { closeMm, lengthMm, locateMm }) =>
		closeMm * (STITCH - 1) + lengthMm >= locateMm
			? `A stitch of ${STITCH} tacks ${closeMm} mm apart is as long as the ${locateMm} mm from stitch to stitch: set them wider.`
			: undefined,
	places({ from, to }, { locateMm, closeMm }) {
		const inner = Math.min((closeMm * (STITCH - 1)) / 2, (to - from) / 2);
		return evenly(from + inner, to - inner, locateMm).flatMap((x) =>
			Array.from({ length: STITCH }, (_, k) => ({
				station: Math.min(to, Math.max(from, x + (k - (STITCH - 1) / 2) * closeMm)),
				stage: 1 as const,
				// the row stays a row
				reach: 0
			}))
		);
	}
};
