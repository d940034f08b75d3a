/**
 * What the core has to know of a kind of hold-down: where it needs the mesh, how it grips, what makes it unsound, in words what it
 * is. Condensing, staging and final shape know the ways to grip and no kind by name. One file a kind, listed in `index.ts`; a kind
 * that leaves an answer out does not compile.
 */
import type { Vec2 } from '../geometry/vec';
import type { AnyHoldDown, Bar, PlanDocument } from '../document/schema';
import type { HoldDownKind } from '../document/words';
import type { BeamSection } from '../shell/beam';
import type { Curve } from './curve';

export type HoldOf<K extends HoldDownKind> = Extract<AnyHoldDown, { kind: K }>;

/** A single place on a part that must be a node. */
export interface Spot {
	id: string;
	part: string;
	at: Vec2;
}

/** How a hold-down acts on the piece. Nothing here means that it acts by heat alone. */
export type Grip =
	/** both sheets of a seam against the bench, at the pair nearest to a station or at every pair between two */
	| { by: 'seam'; joint: string; fromMm: number; toMm: number; directions: 'normal' | 'all'; stiffnessNPerMm: number }
	/** one spot against the bench */
	| { by: 'spot'; spot: string; directions: 'normal' | 'all'; stiffnessNPerMm: number }
	/** a member of its own along a line of nodes, fixed to each, its centroid this far above the sheet */
	| { by: 'member'; along: 'line'; section: BeamSection; offsetMm: number }
	/** a member from one spot to another, its section the same both ways */
	| { by: 'member'; along: 'spots'; spots: readonly [string, string]; section: BeamSection };

/** Where hands must get to put it on and take it off: a station of a seam, or a place on a part's layout. */
export type Hands = { joint: string; stationMm: number; side: 'root' | 'either' } | { part: string; at: Vec2; side: 'front' | 'back' | 'either' };

export interface HoldCheck {
	plan: PlanDocument;
	/** @param field within the hold-down */
	add(field: string, value: unknown, allowed: string): void;
	/** length of a seam, mm, or undefined (and a fault) where there is none of that name */
	seamLength(joint: string): number | undefined;
	/** whether a place lies on a part (a fault where the part is none, or the place lies off it) */
	liesOn(partField: string, part: string, field: string, at: Vec2, mayBeOverHole?: boolean): boolean;
}

/** Names and lengths as the person reads them. */
export interface HoldWords {
	seam(id: string): string;
	part(id: string): string;
	/** the part on one side of a seam */
	sideOf(seam: string, side: 'a' | 'b'): string;
	length(mm: number): string;
	/** the rolled wall that a seam lies on */
	curve(seam: string): Curve | undefined;
}

export interface HoldKind<K extends HoldDownKind> {
	name: string;
	/** chosen for a seam or for a part */
	on: 'seam' | 'part';
	spots(h: HoldOf<K>, plan: Pick<PlanDocument, 'parts'>): Spot[];
	/** the parts it sits on, by their layouts: it stays on where all of them keep their shape; none where it is placed along a seam */
	parts(h: HoldOf<K>): readonly string[];
	/** a line on its part that must be nodes, at least this often */
	line(h: HoldOf<K>): { path: readonly Vec2[]; pitchMm: number } | undefined;
	/** each of these must be got at; none where the piece is lifted off it */
	hands(h: HoldOf<K>): Hands[];
	grips(h: HoldOf<K>, plan: Pick<PlanDocument, 'parts'>): Grip[];
	/** lumps of metal it lays behind or beside seams, as bars: they take heat while it is on */
	blocks(h: HoldOf<K>, plan: Pick<PlanDocument, 'joints'>): Bar[];
	/** how stiffly it holds is a guess, and so part of every band */
	isGripUncertain: boolean;
	check(h: HoldOf<K>, c: HoldCheck): void;
	/** where it goes and what it is, for bench and sheets */
	where(h: HoldOf<K>, w: HoldWords): string;
}

/** A place on a part, by its flat layout as the blank's drawing has it. */
export const placeOf = (h: { part: string; at: Vec2 }, w: HoldWords) =>
	`${w.part(h.part)}, at ${w.length(h.at[0])} across and ${w.length(h.at[1])} up its flat layout`;

export const NO_SPOTS = () => [];
/** Takes no heat to speak of. */
export const NO_BLOCKS = () => [];
/** Placed along a seam. */
export const NO_PARTS = () => [];
export const NO_LINE = () => undefined;
