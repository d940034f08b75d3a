import { ALWAYS } from '../always';
import { evenly, placed, SHARED, type TackSchool } from './school';

export const longTacks: TackSchool = {
	name: 'Long tacks, close together',
	advice: 'For stiff, restrained work, where a short tack would crack or pull out.',
	start: { ...SHARED, locateMm: 35, closeMm: 20, lengthMm: 10, fusionOnly: false },
	fields: [{ field: 'locateMm', label: 'A tack every', minMm: 10, maxMm: 500 }],
	whyNot: ALWAYS,
	places: ({ from, to }, { locateMm }) => placed(evenly(from, to, locateMm), 1, locateMm)
};
