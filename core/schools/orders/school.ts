/** What a school of weld order has to say for itself. One file a school, listed in `index.ts`: one that leaves an answer out does not compile. */
import type { PlanDocument } from '../../document/schema';
import type { SeamInSpace } from '../../layout/space';

export interface OrderSettings {
	runLengthMm: number;
	/** intermittent welds: from the start of one to the start of the next, mm */
	pitchMm?: number;
}

/** A stretch of a seam that is to be one run. */
export interface Piece {
	seam: SeamInSpace;
	/** the end nearer the true corner, and the other: stations, mm */
	near: number;
	far: number;
	index: number;
}

/** One run to lay: a piece, and whether away from the near end. */
export interface Laid {
	piece: Piece;
	away: boolean;
}

/** What a school works with: the seams, and how they are cut into runs. */
export interface Layout {
	plan: PlanDocument;
	settings: OrderSettings;
	/** opposite seams in turn, from the true corner */
	seams: readonly SeamInSpace[];
	/** the same in the order of the plan's joints */
	asListed: readonly SeamInSpace[];
	/** a seam's runs from the near end, less what locked runs cover; @param bounds stations to cut at, otherwise about the run length */
	pieces(seam: SeamInSpace, bounds?: readonly [number, number][]): Piece[];
}

export interface OrderSchool {
	name: string;
	/** leaves gaps between its welds, at a pitch */
	isIntermittent: boolean;
	/** why it does not apply to these seams, or undefined */
	whyNot(seams: readonly SeamInSpace[], settings: OrderSettings): string | undefined;
	/** every seam of the layout, in runs, in weld order */
	lay(layout: Layout): Laid[];
}
