/** A way to bring a piece back, and what it would do. */
import type { WayKind } from '../weldout/afterwards';

/** A reading that decides. */
export interface ReadNow {
	feature: string;
	value: number;
	uncertainty90: number;
}

/** Where a feature would end. */
export interface RightEnd {
	feature: string;
	value: number;
	/** 90 %: the reading's own band, and the shop's factor on what is done */
	low: number;
	high: number;
}

export interface Way {
	id: string;
	kind: WayKind;
	label: string;
	/** seam that it is done to */
	joint?: string;
	/** what to do, in words */
	how: string;
	/** by feature that was read, where the forecast can say */
	ends: RightEnd[];
	/** share of the way to the middle of the limits that the features asked for come, less what the others lose; by the forecast */
	gain?: number;
	minutes: number;
	/** what may go wrong */
	risk: string;
	/** what says so */
	by: 'forecast' | 'closed form' | 'geometry' | 'common practice, no source';
}
