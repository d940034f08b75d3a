/** Every school of weld order. Each is a starting order that stays editable; run lengths are common practice, no source. */
import { alternateSides } from './alternateSides';
import { backStep } from './backStep';
import { chained } from './chained';
import { crossHatch } from './crossHatch';
import { middleOut } from './middleOut';
import { mitreFaceFirst } from './mitreFaceFirst';
import { mitreOutsideFirst } from './mitreOutsideFirst';
import { oneHit } from './oneHit';
import { quarters } from './quarters';
import type { OrderSchool, OrderSettings } from './school';
import { skipRound } from './skipRound';
import { spreadThenJoin } from './spreadThenJoin';
import { staggered } from './staggered';
import { straightThrough } from './straightThrough';

/** In the order they are offered. */
const SCHOOLS = {
	'straight-through': straightThrough,
	'one-hit': oneHit,
	'back-step': backStep,
	'skip-round': skipRound,
	'middle-out': middleOut,
	'spread-then-join': spreadThenJoin,
	quarters,
	'cross-hatch': crossHatch,
	'alternate-sides': alternateSides,
	'mitre-outside-first': mitreOutsideFirst,
	'mitre-face-first': mitreFaceFirst,
	chained,
	staggered
} satisfies Record<string, OrderSchool>;

export type OrderPattern = keyof typeof SCHOOLS;
export const ORDER_SCHOOLS: Record<OrderPattern, OrderSchool> = SCHOOLS;
export const ORDER_PATTERNS = Object.keys(SCHOOLS) as OrderPattern[];

export interface OrderRule extends OrderSettings {
	pattern: OrderPattern;
}
export const DEFAULT_ORDER: OrderRule = { pattern: 'back-step', runLengthMm: 50 };
