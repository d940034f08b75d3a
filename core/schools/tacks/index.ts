/** Every school of tacks: where they go. Which of them comes first is an order of its own (`../tackOrders`). */
import type { TackRule } from '../../document/schema';
import type { TackPattern } from '../../document/words';
import { alternateSides } from './alternateSides';
import { cornersAndMiddles } from './cornersAndMiddles';
import { longTacks } from './longTacks';
import type { TackSchool } from './school';
import { stitch } from './stitch';
import { twoStage } from './twoStage';

export const TACK_SCHOOLS: Record<TackPattern, TackSchool> = {
	'two-stage': twoStage,
	'corners-and-middles': cornersAndMiddles,
	'long-tacks': longTacks,
	stitch,
	'alternate-sides': alternateSides
};

/** The rule a school starts from. */
export const tackStart = (pattern: TackPattern): TackRule => ({ ...TACK_SCHOOLS[pattern].start, pattern });
export const DEFAULT_TACKS: TackRule = tackStart('two-stage');
