/** Every family. Families are generators of plans and nothing more: a new one is a file here, a line below and a word in `document/words.ts`. */
import type { FamilyKind } from '../document/words';
import { buttPanel } from './buttPanel';
import { collar } from './collar';
import { cornerPanel } from './cornerPanel';
import { cylinder } from './cylinder';
import { enclosure } from './enclosure';
import { lapPanel } from './lapPanel';
import { manifold } from './manifold';
import { mitredFrame } from './mitredFrame';
import { openTrough } from './openTrough';
import { patchedPanel } from './patchedPanel';
import { stiffenedPlate } from './stiffenedPlate';
import type { FamilyParameters, FamilyRecord } from './family';

export type MadeFamily = Exclude<FamilyKind, 'free'>;

export const CATALOGUE: Record<MadeFamily, FamilyRecord> = {
	'open-trough': openTrough,
	enclosure,
	'butt-panel': buttPanel,
	'lap-panel': lapPanel,
	'corner-panel': cornerPanel,
	'patched-panel': patchedPanel,
	'stiffened-plate': stiffenedPlate,
	cylinder,
	collar,
	manifold,
	'mitred-frame': mitredFrame
};

export const MADE_FAMILIES = Object.keys(CATALOGUE) as MadeFamily[];

export const FAMILY_WORDS = {
	...Object.fromEntries(MADE_FAMILIES.map((k) => [k, CATALOGUE[k].name])),
	free: 'Free assembly (from a job file)'
} as Record<FamilyKind, string>;

/** Of a piece that no family made nothing is known. */
export const mayBeFilled = (kind: FamilyKind | undefined): boolean => !kind || kind === 'free' || CATALOGUE[kind].isFilled === true;

export const FAMILY_DEFAULTS = Object.fromEntries(MADE_FAMILIES.map((k) => [k, CATALOGUE[k].defaults])) as Record<MadeFamily, FamilyParameters>;
