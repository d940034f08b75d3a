/** What is done to a piece when its welds lie, and what is found on it: by the names the trade has for it. */

/** What is done to a piece that is out. */
export const WAYS = ['planished', 'other-side', 'pressed', 'ground', 'cooled', 'shimmed', 'other'] as const;
export type WayKind = (typeof WAYS)[number];
export const WAY_WORDS: Readonly<Record<WayKind, string>> = {
	planished: 'Seam planished',
	'other-side': 'Bead or reheat on the other side',
	pressed: 'Pressed or bent over',
	ground: 'Face sanded or machined',
	cooled: 'Drawn in by local cooling',
	shimmed: 'Shimmed where it is fixed',
	other: 'Otherwise'
};

/** What is seen on a surface, then what is done to it. */
export const SURFACES = [
	'tint-straw',
	'tint-blue',
	'tint-grey',
	'sugar',
	'undercut',
	'crater',
	'pinholes',
	'spatter',
	'brushed',
	'pickled',
	'passivated',
	'polished'
] as const;
export type SurfaceKind = (typeof SURFACES)[number];
export const SURFACE_WORDS: Readonly<Record<SurfaceKind, string>> = {
	'tint-straw': 'straw to gold',
	'tint-blue': 'purple to blue',
	'tint-grey': 'grey or black',
	sugar: 'sugared root',
	undercut: 'undercut',
	crater: 'open crater',
	pinholes: 'pinholes',
	spatter: 'spatter',
	brushed: 'brushed',
	pickled: 'pickled and rinsed',
	passivated: 'passivated',
	polished: 'ground and polished'
};
/** How a surface is left, mill finishes by EN 10088-2 (from memory). */
export const FINISHES = ['as-rolled', 'brushed', 'ground-80', 'ground-180', 'ground-320', 'mirror'] as const;
export type Finish = (typeof FINISHES)[number];
export const FINISH_WORDS: Readonly<Record<Finish, string>> = {
	'as-rolled': 'as rolled (2B)',
	brushed: 'brushed (2J)',
	'ground-80': 'ground, grit 80',
	'ground-180': 'ground, grit 180',
	'ground-320': 'satin, grit 320 (2K)',
	mirror: 'bright polished (2P)'
};

/** Seen, in the order of how much heat and air made it: the rest of the list is what was done about it. */
export interface Tint {
	kind: SurfaceKind;
	/** drawn by the program as a swatch */
	colour: string;
	/** about what the metal has seen in air for a short while, °C (common practice, no source) */
	fromC: number;
	toC: number;
	todo: string;
}
export const TINTS: readonly Tint[] = [
	{ kind: 'tint-straw', colour: '#d8b45a', fromC: 290, toC: 390, todo: 'Mostly left; brushed or pickled where rust or food duty matters.' },
	{
		kind: 'tint-blue',
		colour: '#5b6ea6',
		fromC: 390,
		toC: 600,
		todo: 'Pickled, or brushed and passivated: under the colour the metal has lost chromium.'
	},
	{
		kind: 'tint-grey',
		colour: '#6b6660',
		fromC: 600,
		toC: 1000,
		todo: 'Burnt: ground to bright metal, then pickled. More gas, more cover, less heat next time.'
	}
];

export const LEAKS = ['tight', 'leaks'] as const;
export type Leak = (typeof LEAKS)[number];

/** What became of a problem. */
export const DECISIONS = ['reworked', 'as-is', 'scrap'] as const;
export type Decided = (typeof DECISIONS)[number];
export const DECIDED_WORDS: Readonly<Record<Decided, string>> = {
	reworked: 'reworked',
	'as-is': 'used as it is, by concession',
	scrap: 'to be scrapped'
};
