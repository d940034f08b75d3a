/** Every order in which tacks are set, by name. */
import type { TackOrder } from '../../document/words';
import { bisection } from './bisection';
import { curveFirst } from './curveFirst';
import { fromTrueCorner } from './fromTrueCorner';
import { onePlaneFirst } from './onePlaneFirst';
import { oppositeEnds } from './oppositeEnds';
import type { TackOrderKind } from './order';

export const TACK_ORDER_KINDS: Record<TackOrder, TackOrderKind> = {
	'from-true-corner': fromTrueCorner,
	'curve-first': curveFirst,
	'one-plane-first': onePlaneFirst,
	'opposite-ends': oppositeEnds,
	bisection
};
