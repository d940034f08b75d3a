/** What a new piece of each family starts from. No generator here: a form can use this without carrying the geometry. */
import type { FamilyKind } from '../plan/words';

export type FamilyParameters = Record<string, number | string | boolean | number[]>;

export const FAMILY_WORDS: Record<FamilyKind, string> = {
	'open-trough': 'Open trough or tray',
	'butt-panel': 'Butt-welded flat panel',
	free: 'Free assembly (from a job file)'
};

export const FAMILY_DEFAULTS: Record<Exclude<FamilyKind, 'free'>, FamilyParameters> = {
	'open-trough': {
		lengthMm: 600,
		widthMm: 300,
		depthMm: 180,
		thicknessMm: 1.5,
		material: '1.4301',
		body: 'u-body',
		rimFlangeMm: 20,
		bendRadiusMm: 2
	},
	'butt-panel': { widthsMm: [250, 250], lengthMm: 500, thicknessMm: 1.5, material: '1.4301' }
};
