import { layIntermittent, noGapsAllowed } from './intermittent';
import type { OrderSchool } from './school';

export const chained: OrderSchool = {
	name: 'Intermittent, chained: the same places on both sides',
	isIntermittent: true,
	whyNot: noGapsAllowed,
	lay: (l) => layIntermittent(l, false)
};
