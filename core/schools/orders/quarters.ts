import { isRing } from '../../layout/seamShape';
import { away, othersBackStepped } from './laying';
import { ringQuarters } from './rings';
import type { OrderSchool } from './school';

export const quarters: OrderSchool = {
	name: 'Rings in quarters, opposite quarters in turn',
	isIntermittent: false,
	whyNot: (seams) => (seams.some(isRing) ? undefined : 'No seam here is a ring: quarters are for girths, collars and sockets.'),
	lay(l) {
		const rings = l.seams.filter(isRing);
		return [...rings.flatMap((s) => ringQuarters(l, s).map(away)), ...othersBackStepped(l, new Set(rings))];
	}
};
