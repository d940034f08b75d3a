/** What a family of pieces has to say for itself, and the fields it asks for. One file a family, listed in `index.ts`. */
import type { AnyFeature, AnyHoldDown, AssemblyStep, Datum, Joint, NamedPoint, Part, PrepCheck } from '../document/schema';

/** What a family makes: ordinary parts, joints, points and features. */
export interface Generated {
	parts: Part[];
	joints: Joint[];
	points: NamedPoint[];
	features: AnyFeature[];
	datum: Datum;
	trueJoint: string;
	/** what the family puts on it to be held or handled by */
	holdDowns?: AnyHoldDown[];
	checks?: PrepCheck[];
	/** what comes on after what, where one part covers what must be welded or looked at before */
	order?: AssemblyStep[];
}

export type FamilyParameters = Record<string, number | string | boolean | number[]>;

interface Base {
	name: string;
	label: string;
	hint?: string;
	/** asked only where this parameter has one of these values */
	when?: [name: string, ...values: (string | number | boolean)[]];
}
export type FieldDef = Base &
	/** `sheets`: it is between sheets, and so many thicknesses more from outside to outside */
	(
		| { kind: 'length'; min: number; max: number; sheets?: number }
		| { kind: 'angle'; min: number; max: number }
		| { kind: 'count'; min: number; max: number }
		| { kind: 'word'; options: Record<string, string> }
		| { kind: 'flag' }
		| { kind: 'lengths'; min: number; max: number; atLeast: number; atMost: number; each: string }
	);

export const length = (name: string, label: string, min: number, max: number, hint?: string, when?: Base['when']): FieldDef => ({
	kind: 'length',
	name,
	label,
	min,
	max,
	hint,
	when
});
/** A clear size between sheets: a form may ask for it over the sheets instead. */
export const clear = (name: string, label: string, min: number, max: number, sheets: number): FieldDef => ({
	...length(name, `${label} inside`, min, max),
	kind: 'length',
	min,
	max,
	sheets
});
export const count = (name: string, label: string, min: number, max: number, hint?: string): FieldDef => ({
	kind: 'count',
	name,
	label,
	min,
	max,
	hint
});
export const flag = (name: string, label: string, when?: Base['when']): FieldDef => ({ kind: 'flag', name, label, when });
/** Every family is of sheet. */
export interface Sheet {
	thicknessMm: number;
	material: string;
}
export const SHEET: FamilyParameters & Sheet = { thicknessMm: 1.5, material: '1.4301' };

/** Is a field asked for with these parameters? */
export const isAsked = (f: FieldDef, given: FamilyParameters) => !f.when || f.when.slice(1).includes(given[f.when[0]] as string | number | boolean);

/** What must fit into what. */
export interface Fit {
	field: string;
	fits: (p: Record<string, number>) => boolean;
	allowed: (p: Record<string, number>) => string;
}
export const most = (
	field: string,
	limit: (p: Record<string, number>) => number,
	what: string,
	when: (p: Record<string, number>) => boolean = () => true
): Fit => ({
	field,
	fits: (p) => !when(p) || p[field] <= limit(p),
	allowed: (p) => `must be at most ${Math.floor(limit(p))} mm: ${what}`
});
/** What is left out with 0 must otherwise be large enough to be cut, bent and welded. */
export const noneOr = (field: string, least: (p: Record<string, number>) => number): Fit => ({
	field,
	fits: (p) => !p[field] || p[field] >= least(p),
	allowed: (p) => `must be 0 for none, or at least ${Math.ceil(least(p))} mm`
});
/** So many of them along the length that a hand and a torch still go between. */
const LEAST_BAY = 25;
export const apart = (field: string, what: string): Fit => ({
	field,
	fits: (p) => p[field] === 0 || p.lengthMm / (p[field] + 1) >= LEAST_BAY,
	allowed: (p) => `must be at most ${Math.max(0, Math.floor(p.lengthMm / LEAST_BAY) - 1)}: ${what} at least ${LEAST_BAY} mm apart on this length`
});

export interface FamilyRecord {
	name: string;
	/** one line a planner can tell it by */
	says: string;
	/** made to be filled: with water to begin with, which cold weld metal stands and hot does not */
	isFilled?: true;
	fields: readonly FieldDef[];
	/** lengths against which the sheet must be thin: at most half of the smallest */
	sizes: readonly string[];
	defaults: FamilyParameters;
	fits: readonly Fit[];
	/** given what the fields ask for, each checked, and what fits */
	make(p: never): Generated;
}
