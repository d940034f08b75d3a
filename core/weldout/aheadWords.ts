/** What the welder does about edges that part ahead of the arc. */
import type { Ahead } from '../hot/ahead';
import { formatLength, type LengthUnit } from '../units/length';

export const aheadWords = (a: Ahead, unit: LengthUnit): string =>
	`Ahead of the arc the edges will stand about ${formatLength(a.gapMm, unit)} apart, most when you come to ${formatLength(a.arcMm, unit, 0)}: wedge them or tack them there first.`;
