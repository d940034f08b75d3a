import { distance } from '../../geometry/vec';
import { ALWAYS } from '../always';
import { outwards, walk, type Placed, type TackOrderKind } from './order';

/** Each next tack is the one farthest from the last; of those as far, one on another seam. */
export const oppositeEnds: TackOrderKind = {
	name: 'Opposite sides and opposite ends in turn',
	whyNot: ALWAYS,
	order<T extends Placed>(o: Parameters<TackOrderKind['order']>[0] & { tacks: readonly T[] }): T[] {
		const open = outwards(o).flatMap((s) => walk(o, s));
		const held = open.filter((t) => o.isLast(t.seam));
		const left = open.filter((t) => !o.isLast(t.seam));
		const out: T[] = [];
		while (left.length) {
			const before = out[out.length - 1];
			const at = before?.seam.at(before.station);
			const far = (t: T) => (at ? distance(t.seam.at(t.station), at) + (t.seam === before.seam ? 0 : 1) : 0);
			let best = 0;
			for (let i = 1; i < left.length; i++) if (far(left[i]) > far(left[best]) + 1e-6) best = i;
			out.push(...left.splice(best, 1));
		}
		return [...out, ...held];
	}
};
