/** What a way of reading a feature has to say for itself. One file a method, listed in `index.ts`. */
import { Refusal } from '../../refusal/refusal';

/** What a reading needs to know of its feature. */
export interface ReadingContext {
	/** flatness grid */
	nx?: number;
	ny?: number;
	/** sides of a field or of an opening */
	sizeMm?: [number, number];
	/** what the panel's own shape stands over its plane by at each place, towards its front, mm */
	relief?: readonly number[];
	/** straightness: places between the ends */
	between?: number;
	/** of the line that is read */
	lengthMm?: number;
	/** the fourth corner as the drawing has it: shares of the other three in it */
	fourth?: readonly [number, number, number];
	/** which faces a tape lies between, in words */
	over?: string;
	/** nominal value of a length or an angle */
	nominal?: number;
	/** its places lie a part of a turn apart on a rolled wall, or on a flat ring */
	round?: 'rolled' | 'ring';
	/** of a rolled wall, its outside diameter by the drawing */
	outsideMm?: number;
	/** as many places as are read, where a person may choose */
	places?: number;
}

export interface Worked {
	value: number;
	arithmetic: string;
	/** in place of the method's own `spread`, where it depends on what was read */
	spread?: number;
	/** 90 % half-width that is not the instrument's, in the value's unit; added to it as independent (GUM) */
	scatter90?: number;
}

export type ReadingUnit = 'mm' | '°';

/** What the instrument is read in. */
export const readsIn = (m: Pick<MethodKind, 'unit' | 'readsIn'>): ReadingUnit => m.readsIn ?? m.unit;
/** What each reading is in. */
export const unitsOf = (m: MethodKind, context: ReadingContext): ReadingUnit[] =>
	m.labels(context).map((_, i) => (m.others?.includes(i) ? (readsIn(m) === 'mm' ? '°' : 'mm') : readsIn(m)));

export interface MethodKind {
	name: string;
	/** of the feature's value */
	unit: ReadingUnit;
	/** of each reading, where that is another */
	readsIn?: ReadingUnit;
	/** places of readings that are in the other unit all the same */
	others?: readonly number[];
	/** where it can be used; on every feature of its kind, where nothing is said */
	suits?(context: ReadingContext): boolean;
	/** a person reads at as many places as they like, from `least` to `most` */
	chosen?: { least: number; most: number; usual(context: ReadingContext): number };
	/** not typed: the page of scans fills it */
	isFromScan?: true;
	/** each place takes three readings, as a file of coordinates gives them */
	isPoints?: true;
	/** what each reading is, by its place; the list ends where the readings do */
	labels(context: ReadingContext): string[];
	/** cells side by side on the page */
	columns(context: ReadingContext): number;
	/** 90 % half-width of one reading with an ordinary instrument, in the readings' unit (common practice, no source) */
	reading90: number;
	/** how much wider the value's is: readings independent (GUM) */
	spread: number;
	/** the least a reading can be: a feeler under a corner is not thinner than nothing, a tape reads more than nothing */
	least?: { value: number; isAllowed: boolean };
	/** the feature's own value (form error, or departure from nominal) with the arithmetic in words; as many finite readings as labels */
	evaluate(readings: readonly number[], context: ReadingContext): Worked;
}

export const f2 = (v: number) => v.toFixed(2);
export const three = () => 3;

/** @throws Refusal where the drawing has no value of it */
export function nominalOf(context: ReadingContext): number {
	if (context.nominal === undefined) throw new Refusal('The drawing value of this feature is not known');
	return context.nominal;
}
/** @throws Refusal: this reading must be more than nothing */
export function mustReach(value: number, label: string): void {
	if (!(value > 0)) throw new Refusal(`${label}: ${value} cannot be read, it is more than 0`);
}
