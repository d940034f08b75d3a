import { evenly, placed, SHARED, type TackSchool } from './school';
import { twoSided } from '../../layout/seamShape';

export const alternateSides: TackSchool = {
	name: 'Both sides of a tee, never face to face',
	advice: 'For a sheet welded on both sides: the second side is tacked half a pitch on, so that no tack pulls where another has just pulled.',
	start: { ...SHARED, order: 'opposite-ends', locateMm: 100, closeMm: 20, lengthMm: 8, fusionOnly: false },
	fields: [{ field: 'locateMm', label: 'On each side, every', minMm: 10, maxMm: 500 }],
	whyNot: (seams, _, all) =>
		twoSided(all)
			.flat()
			.some((s) => seams.includes(s))
			? undefined
			: 'No sheet here is welded on both sides along one line.',
	places({ from, to, isSecondSide }, { locateMm }) {
		const first = evenly(from, to, locateMm);
		const stations = isSecondSide ? first.slice(1).map((x, i) => (x + first[i]) / 2) : first;
		return placed(stations, 1, locateMm / 2);
	}
};
