/** What a hold point of each kind is called, when it may come, and what is recorded with the signature. */
import type { HoldPointKind, HoldPointMoment } from '../document/words';

/** Fields of the log that may be recorded with a signature. */
export type HoldPointField = 'oxygenPct' | 'minutes' | 'mm' | 'instrument' | 'witness';

interface KindOfHoldPoint {
	words: string;
	/** the first is offered */
	moments: readonly [HoldPointMoment, ...HoldPointMoment[]];
	asks: readonly HoldPointField[];
	/** at least one of these is given; none: nothing must be */
	oneOf: readonly HoldPointField[];
	/** what is looked at: common practice, no source */
	look: string;
}

export const HOLD_POINT: Readonly<Record<HoldPointKind, KindOfHoldPoint>> = {
	'fit-up': {
		words: 'Fit-up accepted',
		moments: ['tacked'],
		asks: [],
		oneOf: [],
		look: 'Square, plumb, diagonals, gaps along every seam, tacks sound and where the plan has them.'
	},
	inside: {
		words: 'Inside looked over',
		moments: ['closing', 'end'],
		asks: [],
		oneOf: [],
		look: 'Pinholes, craters and undercut from the inside, with a light: nobody sees it again.'
	},
	purge: {
		words: 'Purge proven',
		moments: ['swept'],
		asks: ['oxygenPct', 'minutes', 'instrument'],
		oneOf: ['oxygenPct', 'minutes'],
		look: 'Oxygen at the vent by a meter, or the time swept at the stated flow. Never by putting a head in.'
	},
	datum: {
		words: 'Datum checked',
		moments: ['tacked', 'closing'],
		asks: ['mm'],
		oneOf: [],
		look: 'What all is measured from lies where it should; by how much it is off.'
	},
	witness: {
		words: 'Seen by the customer',
		moments: ['end', 'closing', 'tacked'],
		asks: ['witness'],
		oneOf: ['witness'],
		look: 'Who came, and what was shown.'
	}
};
