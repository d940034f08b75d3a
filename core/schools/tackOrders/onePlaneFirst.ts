import { planeFirst } from '../../layout/seamShape';
import { outwards, walk, type TackOrderKind } from './order';

export const onePlaneFirst: TackOrderKind = {
	name: 'One plane true, then the other',
	whyNot: (seams, corner) =>
		planeFirst(seams, corner)
			? undefined
			: 'No plane through the true corner holds some of these seams but not all: take another order, or another true corner.',
	order(o) {
		// at a step of the assembly whose seams all lie in one plane, or none, there is nothing to put first
		const { first, then } = planeFirst(o.seams, o.corner) ?? { first: o.seams, then: [] };
		return [...outwards(o, first), ...outwards(o, then)].flatMap((s) => walk(o, s));
	}
};
