import { isCurved } from '../../layout/seamShape';
import { outwards, walk, type TackOrderKind } from './order';

export const curveFirst: TackOrderKind = {
	name: 'Curved seams first, then to the free end',
	whyNot(seams) {
		const curved = seams.filter(isCurved);
		if (!curved.length) return 'No seam here is curved: take another order.';
		return curved.length === seams.length ? 'Every seam here is curved, so none can come after the curves: take another order.' : undefined;
	},
	order(o) {
		const curved = o.seams.filter(isCurved);
		const rest = o.seams.filter((s) => !curved.includes(s));
		return [...outwards(o, curved), ...outwards(o, rest)].flatMap((s) => walk(o, s));
	}
};
