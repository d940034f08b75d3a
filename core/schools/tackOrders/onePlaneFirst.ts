import { planeFirst } from '../../layout/seamShape';
import { outwards, walk, type TackOrderKind } from './order';

export const onePlaneFirst: TackOrderKind = {
	name: 'One plane true, then the other',
	whyNot: (seams, corner) =>
		planeFirst(seams, corner)
			? undefined
			: 'No plane through the true corner holds some of these seams but not all: take another order, or another true corner.',
	order(o) {
		const { first, then } = planeFirst(o.seams, o.corner)!;
		return [...outwards(o, first), ...outwards(o, then)].flatMap((s) => walk(o, s));
	}
};
