import { twoSided } from '../../layout/seamShape';
import { backStepped, inTurn, othersBackStepped } from './laying';
import type { OrderSchool } from './school';

export const alternateSides: OrderSchool = {
	name: 'Both sides in turn, run by run',
	isIntermittent: false,
	whyNot: (seams) => (twoSided(seams).length ? undefined : 'No sheet here is welded on both sides along one line.'),
	lay(l) {
		const pairs = twoSided(l.seams);
		return [...pairs.flatMap(([p, q]) => inTurn([backStepped(l, p), backStepped(l, q)])), ...othersBackStepped(l, new Set(pairs.flat()))];
	}
};
