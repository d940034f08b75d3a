import { ALWAYS } from '../always';
import { placed, SHARED, type TackSchool } from './school';

export const cornersAndMiddles: TackSchool = {
	name: 'Corners and middles only',
	advice: 'For a light-tight fit on a backing bar. Quick, and leaves the seam free to move ahead of the arc.',
	start: { ...SHARED, locateMm: 75, closeMm: 20, lengthMm: 5, fusionOnly: true },
	fields: [],
	whyNot: ALWAYS,
	places: ({ seam, from, to }) => placed([from, seam.lengthMm / 2, to], 1, seam.lengthMm / 4)
};
