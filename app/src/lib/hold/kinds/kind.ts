/**
 * What the page has to know of a kind of hold-down: how one is first put on, what can be changed of it, how it is drawn. The core's
 * record (`core/holds`) says what it does. One file a kind, listed in `index.ts`; one that leaves an answer out does not compile.
 */
import { deepestPoint } from '$core/geometry/polyline';
import type { AnyHoldDown, Joint, Part, PlanDocument } from '$core/document/schema';
import type { HoldDownKind } from '$core/document/words';
import type { HoldOf } from '$core/holds/hold';

/** Where a new one is wanted. */
export interface Wanted {
	plan: PlanDocument;
	/** the seam chosen, if any */
	joint?: Joint;
	part: Part;
	/** makes an id from a short word */
	unique(word: string): string;
}

/** A field of the editor, by the name of what it changes (`metal.conductivity` lies within `metal`). */
export type HoldField<H> = { name: string; label: string; hint?: string; when?: (h: H) => boolean } & (
	| { is: 'length'; min: number; max: number }
	/** a length along its seam */
	| { is: 'station' }
	/** @property times what is shown is so many times what is kept */
	| { is: 'number'; unit: string; min: number; max: number; times?: number }
	/** @property read what is chosen, where it is more than one value */
	| { is: 'choice'; items: readonly { value: string; name: string }[]; read?: (h: H) => string; change?: (h: H, value: string) => void }
	| { is: 'part' }
	| { is: 'parts' }
	| { is: 'place' }
);

/** How it is drawn: sizes in units of the drawing's own line, lifts towards the weld side or the front. */
export type HoldDrawing =
	| { by: 'seam-line'; joint: string; fromMm: number; toMm: number; lift: number; thick: number; colour: string }
	| { by: 'seam-block'; joint: string; stationMm: number; colour: string }
	| { by: 'places'; shape: 'cone' | 'ball' | 'drum'; places: readonly { part: string; at: [number, number] }[]; lift: number; colour: string }
	/** a flat top under whole sheets, with a margin round them; all in one plane */
	| { by: 'top'; parts: readonly string[]; thickMm: number; colour: string }
	| { by: 'line'; ends: readonly { part: string; at: [number, number] }[]; liftMm: number; thick: number; colour: string };

export interface HoldPage<K extends HoldDownKind> {
	/** usual sizes, on from the start, off when cold; nothing where it wants a seam and none is chosen */
	make(w: Wanted): AnyHoldDown[];
	fields: readonly HoldField<HoldOf<K>>[];
	draw(h: HoldOf<K>, plan: PlanDocument): HoldDrawing[];
}

export const E_STEEL = 200_000;
export const DARK = '#3b4650';
export const GREY = '#59666f';

/** Well inside the panel that lies on the bench: clear of edges, holes and folds. */
export const placeInside = (part: Part) =>
	deepestPoint(
		part.outline,
		part.holes,
		part.bends.map((b) => [b.from, b.to] as const)
	);

/** Three places round the middle of that panel. */
export function threePlaces(part: Part): [number, number][] {
	const { at, depth } = placeInside(part);
	const reach = 0.8 * depth;
	return [
		[at[0] - reach, at[1] - reach],
		[at[0] + reach, at[1] - reach],
		[at[0], at[1] + reach]
	];
}

export const HOLDS_WAY = {
	is: 'choice',
	name: 'holds',
	label: 'Holds',
	items: [
		{ value: 'normal', name: 'flat only' },
		{ value: 'all', name: 'every way' }
	]
} as const;
export const CONTACT = {
	is: 'choice',
	name: 'contact',
	label: 'Contact',
	items: [
		{ value: 'tight', name: 'clamped tight' },
		{ value: 'fair', name: 'fair' },
		{ value: 'loose', name: 'loose' }
	]
} as const;
export const STRETCH = [
	{ is: 'station', name: 'fromMm', label: 'From station' },
	{ is: 'station', name: 'toMm', label: 'To station' }
] as const;
export const ON_PART = { is: 'part', name: 'part', label: 'On part' } as const;
export const PLACE = { is: 'place', name: 'at', label: 'Place' } as const;
