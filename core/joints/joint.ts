/** What the core has to know of a kind of joint. One file a kind, listed in `index.ts`; one that leaves an answer out does not compile. */
import type { Penetration } from '../document/words';

/** The elementary symbol of its weld (ISO 2553). */
export type ElementarySymbol = 'square-butt' | 'fillet' | 'edge';

export interface JointKind {
	name: string;
	symbol: ElementarySymbol;
	usualPenetration: Penetration;
	/** the sheets lie in one plane or on one another: nothing but themselves keeps them from bowing along the seam */
	isFlat: boolean;
	/** the weld closes the gap between two edges; otherwise it lies in the corner between two faces, with a leg */
	isEdgeToEdge: boolean;
	/** the sheets meet at a corner of the piece, with an outside and an inside */
	isCorner: boolean;
	/** a part that comes on later lies on the other's edge or flush with it, and is pressed down where it is tacked; otherwise it stands on it */
	isLaidOn: boolean;
	/** where two edges point the same way the front is on the side they point to; of a socket it is the other, between it and the wall */
	frontIsBehindEdges: boolean;
	/** what `weldSide` means */
	sides: { front: string; back: string };
	/** said at fit-up of every such joint (common practice, no source) */
	advice: string[];
}

export const FACES = { front: 'the front', back: 'the back' };
export const CORNER = { front: 'outside', back: 'inside' };
