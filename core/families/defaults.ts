/** Families' names and defaults, from their catalogue. */
import type { FamilyKind } from '../plan/words';
import { CATALOGUE, type MadeFamily } from './catalogue';

export type FamilyParameters = Record<string, number | string | boolean | number[]>;

export const MADE_FAMILIES = Object.keys(CATALOGUE) as MadeFamily[];

export const FAMILY_WORDS = {
	...Object.fromEntries(MADE_FAMILIES.map((k) => [k, CATALOGUE[k].name])),
	free: 'Free assembly (from a job file)'
} as Record<FamilyKind, string>;

export const FAMILY_DEFAULTS = Object.fromEntries(MADE_FAMILIES.map((k) => [k, CATALOGUE[k].defaults])) as Record<MadeFamily, FamilyParameters>;
