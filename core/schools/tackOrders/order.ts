/** What an order of tacks has to say for itself: its words, where it does not apply, and the order. One file each. */
import type { Vec3 } from '../../geometry/vec';
import { datumIsNear, nearEnd, type SeamInSpace } from '../../layout/space';

/** A tack on its seam. */
export interface Placed {
	seam: SeamInSpace;
	station: number;
}

/** What an order works with. */
export interface ToOrder<T extends Placed> {
	seams: readonly SeamInSpace[];
	tacks: readonly T[];
	corner: Vec3;
	/** the joint that takes up the error of the rest comes last */
	isLast(seam: SeamInSpace): boolean;
}

export interface TackOrderKind {
	name: string;
	/** why it does not apply to these seams, or undefined */
	whyNot(seams: readonly SeamInSpace[], corner: Vec3): string | undefined;
	order<T extends Placed>(o: ToOrder<T>): T[];
}

/** Seams from the true corner outwards. */
export const outwards = (o: ToOrder<Placed>, seams: readonly SeamInSpace[] = o.seams) =>
	[...seams].sort((p, q) => Number(o.isLast(p)) - Number(o.isLast(q)) || nearEnd(p, o.corner) - nearEnd(q, o.corner));

/** A seam's tacks from the end nearer the true corner to the free end. */
export function walk<T extends Placed>(o: ToOrder<T>, seam: SeamInSpace): T[] {
	const own = o.tacks.filter((t) => t.seam === seam).sort((p, q) => p.station - q.station);
	return datumIsNear(seam, o.corner) ? own : own.reverse();
}
