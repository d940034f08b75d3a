import { spreadOrder } from '../orders/laying';
import { ALWAYS } from '../always';
import { outwards, walk, type TackOrderKind } from './order';

export const bisection: TackOrderKind = {
	name: 'Ends, middle, then halves of what is left',
	whyNot: ALWAYS,
	order: (o) =>
		outwards(o).flatMap((s) => {
			const own = walk(o, s);
			return spreadOrder(own.length).map((i) => own[i]);
		})
};
