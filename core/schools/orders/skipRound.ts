import { away, inTurn, spreadOrder } from './laying';
import { ALWAYS } from '../always';
import type { OrderSchool } from './school';

export const skipRound: OrderSchool = {
	name: 'Skip round: one run, then another seam each time',
	isIntermittent: false,
	whyNot: ALWAYS,
	lay: (l) =>
		inTurn(
			l.seams.map((s) => {
				const list = l.pieces(s);
				return spreadOrder(list.length).map((i) => away(list[i]));
			})
		)
};
