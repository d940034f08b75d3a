import { twoSided } from '../../layout/seamShape';
import { layIntermittent, noGapsAllowed } from './intermittent';
import type { OrderSchool } from './school';

export const staggered: OrderSchool = {
	name: 'Intermittent, staggered: sides in turn along the seam',
	isIntermittent: true,
	whyNot: (seams, settings) =>
		noGapsAllowed(seams, settings) ??
		(twoSided(seams).length ? undefined : 'No sheet here is welded on both sides along one line: chain it instead.'),
	lay: (l) => layIntermittent(l, true)
};
