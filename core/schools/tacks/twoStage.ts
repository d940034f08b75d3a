import { ALWAYS } from '../always';
import { evenly, placed, SHARED, type TackSchool } from './school';

export const twoStage: TackSchool = {
	name: 'Two stages: locate, then close up',
	advice: 'For a seam that wants to open: a few to locate, look again, then close up.',
	start: { ...SHARED, locateMm: 75, closeMm: 20, lengthMm: 5, fusionOnly: true },
	fields: [
		{ field: 'locateMm', label: 'To locate, every', minMm: 10, maxMm: 500 },
		{ field: 'closeMm', label: 'To close up, every', minMm: 5, maxMm: 200 }
	],
	whyNot: ALWAYS,
	places({ from, to }, { locateMm, closeMm }) {
		const locate = evenly(from, to, locateMm);
		const between = locate.slice(1).flatMap((x, i) => evenly(locate[i], x, closeMm).slice(1, -1));
		return [...placed(locate, 1, locateMm), ...placed(between, 2, closeMm)];
	}
};
