/**
 * What the core has to know of a kind of feature: where it looks, what it is worth, how it is read and toleranced. Forecast, learning,
 * measuring and the pages know no kind by name. One file a kind, listed in `index.ts`; one that leaves an answer out does not compile.
 */
import type { AnyFeature, PlanDocument } from '../document/schema';
import type { FeatureKind } from '../document/words';
import type { Vec2, Vec3 } from '../geometry/vec';
import { Refusal } from '../refusal/refusal';
import type { FormClass, LinearClass } from '../measure/iso13920';
import type { Method } from '../measure/methods';
import type { ReadingContext } from '../measure/methods/method';

export type FeatureOf<K extends FeatureKind> = Extract<AnyFeature, { kind: K }>;

/** A place on a part's flat layout. */
export interface Place {
	part: string;
	at: Vec2;
}

export interface FeatureCheck {
	/** @param field within the feature */
	add(field: string, value: unknown, allowed: string): void;
	/** each must be a named point of the plan, and none twice */
	named(ids: readonly string[], field: string): void;
	onPart(part: string, at: Vec2, field: string): void;
}

/** General tolerances by ISO 13920: from which table, entered with which size. */
export type GeneralTolerance<F> =
	| { classes: 'form'; of(c: FormClass, sizeMm: number): Limits; sizeMm: SizeOf<F> }
	| { classes: 'linear'; of(c: LinearClass, sizeMm: number): Limits; sizeMm: SizeOf<F> };
interface Limits {
	upper: number;
	lower?: number;
	/** said beside the class */
	note?: string;
}
/** @param drawn value of the feature by the drawing, where it has one; @param sideMm a side of the piece, where the feature has no size of its own */
type SizeOf<F> = (f: F, drawn: number | undefined, sideMm: number) => number;

export interface FeatureRecord<K extends FeatureKind> {
	unit: 'mm' | '°';
	/** what the linear method leaves out of its number */
	linearCaution?: string;
	/** goes either way from its target; a form error is never below nothing */
	isSigned: boolean;
	/** a panel that waves owns it: the linear method says nothing of it then */
	isOwnedByWaves: boolean;
	/** judged by how far a sheet hangs or bows between what holds it */
	sags: boolean;
	/** places a tape is stretched between, by pairs of their indices */
	taped: readonly (readonly [number, number])[];
	/** how its places are joined on a drawing: by its tapes, along a line, round a ring, as a ring of three for each face, or not at all */
	shownAs: 'tapes' | 'line' | 'ring' | 'faces' | 'places';
	/** what each place is, in the order they are pointed at */
	asks: readonly string[];
	/** A feature of these places, as many as are asked for, its tolerance left open. @param named makes a named point of a place @throws Refusal where they cannot be its places */
	make(places: readonly Place[], named: (p: Place) => string): Omit<FeatureOf<K>, 'id' | 'name' | 'tolerance'>;
	/** the feature with its own places on a part's layout put elsewhere; named points move by themselves */
	relaid(f: FeatureOf<K>, to: (at: Vec2) => Vec2): FeatureOf<K>;
	/** ways to read it, the usual one first */
	methods: readonly [Method, ...Method[]];
	/** the places it looks at, in the order its formula takes them */
	places(f: FeatureOf<K>, plan: PlanDocument): Place[];
	check(f: FeatureOf<K>, c: FeatureCheck): void;
	/** value by the drawing, mm or degrees; form errors have none */
	nominal(points: readonly Vec3[]): number | undefined;
	/**
	 * The value with the points moved by `u`: a form error, or the departure from the drawing (or from a measured original).
	 * Lengths use the change along the drawing's line, so that a rigid turn of the linear method adds nothing.
	 */
	moved(f: FeatureOf<K>, nominal: readonly Vec3[], u: readonly Vec3[]): number;
	/** the same for points that may have moved and turned by any amount: true distances, no straight-line shortcut */
	movedFar(f: FeatureOf<K>, nominal: readonly Vec3[], points: readonly Vec3[]): number;
	/** @param points its places in the drawing */
	reading(f: FeatureOf<K>, points: () => readonly Vec3[]): ReadingContext;
	general: GeneralTolerance<FeatureOf<K>>;
}

/** Places of named points. */
export const namedPlaces = (ids: readonly string[], plan: PlanDocument): Place[] =>
	ids.map((id) => {
		const p = plan.points.find((q) => q.id === id)!;
		return { part: p.part, at: p.at };
	});

/** The one part that places lie on. @throws Refusal where they lie on several */
export function onePart(places: readonly Place[], what: string): string {
	if (places.some((p) => p.part !== places[0].part)) throw new Refusal(`${what} is read on one part: these places lie on several`);
	return places[0].part;
}

/** How far the drawing is from a measured original, mm or degrees; nothing where the drawing is the target. */
export const towards = (f: { original?: number }, drawn: number) => (f.original === undefined ? 0 : drawn - f.original);

export const NONE = () => undefined;
