/**
 * What goes otherwise than planned at the bench: a table of kinds, each with its words, what is asked with it and what is said of it in
 * the log. What a line of the log may carry beside its kind, step and note stands here too.
 */
import 'reflect-metadata';
import type { Fault } from '../document/faults';
import type { HoldPoint, PlanDocument } from '../document/schema';
import { Id, Maybe, Name, Num, OneOf } from '../document/validators';
import type { EventKind } from '../document/words';
import { pathLength } from '../geometry/polyline';
import { HOLD_POINT } from '../plan/holdPoint';
import {
	DECIDED_WORDS,
	DECISIONS,
	FINISHES,
	FINISH_WORDS,
	LEAKS,
	SURFACES,
	SURFACE_WORDS,
	WAY_WORDS,
	WAYS,
	type Decided,
	type Finish,
	type Leak,
	type SurfaceKind,
	type WayKind
} from './afterwards';

export const HAPPENINGS = [
	'tack-broken',
	'tack-set',
	'gap-opened',
	'gap-closed',
	'pinhole',
	'burn-through',
	'touched',
	'fan',
	'clamp-slipped',
	'metal',
	'as-set',
	'filler',
	'part-changed',
	'corrected',
	'surface',
	'gap-read',
	'wall-read',
	'leak-tested'
] as const;
export type HappeningKind = (typeof HAPPENINGS)[number];
/** What whoever inspects may log too: nothing is done to the piece. */
export const LOOKED: readonly HappeningKind[] = ['surface', 'gap-read', 'wall-read', 'leak-tested'];

/** What a line of the log carries beside its kind, step and note; which of it belongs to which kind, `dataFaults` says. */
export class EventData {
	@Maybe() @OneOf(HAPPENINGS) what?: HappeningKind;
	@Maybe() @Id() joint?: string;
	@Maybe() @Num(0, 20_000) stationMm?: number;
	/** a gap, or the length of a tack, mm */
	@Maybe() @Num(0, 100) mm?: number;
	/** of what was laid of a run, in the direction it was laid, mm */
	@Maybe() @Num(0, 20_000) fromMm?: number;
	@Maybe() @Num(0, 20_000) toMm?: number;
	@Maybe() @Num(-50, 1500) metalC?: number;
	@Maybe() @Num(1, 600) currentA?: number;
	@Maybe() @Num(5, 60) volts?: number;
	@Maybe() @Num(0.1, 60) speedMmPerS?: number;
	@Maybe() @Id() holdDown?: string;
	@Maybe() @Id() part?: string;
	@Maybe() @Name(60) filler?: string;
	@Maybe() @Name(40) heat?: string;
	/** of a purge, at its vent */
	@Maybe() @Num(0, 21) oxygenPct?: number;
	@Maybe() @Num(0, 1000) minutes?: number;
	/** what read it, and the machine it was set on, by the shop's names of them */
	@Maybe() @Name(120) instrument?: string;
	@Maybe() @Name(80) source?: string;
	/** who came to see it */
	@Maybe() @Name(120) witness?: string;
	/** of what was put right: how, and what was to come true by it */
	@Maybe() @OneOf(WAYS) way?: WayKind;
	@Maybe() @Id() feature?: string;
	/** what it was foretold to come to, in the feature's unit */
	@Maybe() @Num(-10_000, 10_000) foretold?: number;
	@Maybe() @OneOf(SURFACES) surface?: SurfaceKind;
	@Maybe() @OneOf(FINISHES) finish?: Finish;
	/** of the shop's, that it was cleaned or pickled with */
	@Maybe() @Name(120) product?: string;
	@Maybe() @OneOf(LEAKS) leak?: Leak;
	/** what became of a problem */
	@Maybe() @OneOf(DECISIONS) decided?: Decided;
}
export type DataField = Exclude<keyof EventData, 'what'>;

interface Happening {
	/** on its button, and in the log */
	words: string;
	/** asked for; those that must be given */
	asks: readonly DataField[];
	must: readonly DataField[];
	/** kept with it, and asked of nobody */
	also?: readonly DataField[];
	/** what to do now, said beside the form: common practice, no source */
	hint: string;
}

export const HAPPENING: Readonly<Record<HappeningKind, Happening>> = {
	'tack-broken': {
		words: 'Tack broken',
		asks: ['joint', 'stationMm'],
		must: ['joint', 'stationMm'],
		hint: 'Bring the edges true again before it is set anew.'
	},
	'tack-set': {
		words: 'Tack set or added',
		asks: ['joint', 'stationMm', 'mm'],
		must: ['joint', 'stationMm'],
		hint: 'Same length and metal as its neighbours, unless it says otherwise.'
	},
	'gap-opened': {
		words: 'Gap opened',
		asks: ['joint', 'stationMm', 'mm'],
		must: ['joint', 'mm'],
		hint: 'Stop the run before it: draw it in with a clamp or a tack, else it burns through.'
	},
	'gap-closed': { words: 'Gap closed', asks: ['joint', 'stationMm', 'mm'], must: ['joint'], hint: 'Say what is left of it.' },
	pinhole: {
		words: 'Pinhole found and repaired',
		asks: ['joint', 'stationMm'],
		must: ['joint', 'stationMm'],
		hint: 'Ground out and run again, looked at from both sides before anything closes over it.'
	},
	'burn-through': {
		words: 'Burn-through',
		asks: ['joint', 'stationMm', 'mm'],
		must: ['joint', 'stationMm'],
		hint: 'Let it go cold, back it with copper, close it from its rim inwards.'
	},
	touched: { words: 'Tungsten touched', asks: ['stationMm'], must: [], hint: 'Regrind before the next arc, and look for tungsten in the run.' },
	fan: {
		words: 'Fan used',
		asks: [],
		must: [],
		hint: 'Never at a lit arc: it takes the gas away. The wait counts it from this tap to the next arc.'
	},
	'clamp-slipped': { words: 'Hold-down slipped', asks: ['holdDown', 'mm'], must: ['holdDown'], hint: 'Read the feature it held before going on.' },
	metal: {
		words: 'Metal read',
		asks: ['metalC', 'instrument'],
		must: ['metalC'],
		hint: 'With a contact probe beside the run, or infrared on a dull spot.'
	},
	'as-set': {
		words: 'Set otherwise',
		asks: ['currentA', 'volts', 'speedMmPerS', 'source'],
		must: [],
		hint: 'What the machine showed, and the speed the hand kept.'
	},
	filler: { words: 'Other filler or batch', asks: ['filler', 'heat'], must: ['filler'], hint: 'Grade as on the tube; the batch as its heat number.' },
	'part-changed': { words: 'Part changed for a spare', asks: ['part', 'heat'], must: ['part'], hint: 'True it and locate it as the first one was.' },
	corrected: {
		words: 'Put right',
		asks: ['way', 'feature', 'joint', 'minutes'],
		must: ['way'],
		also: ['foretold'],
		hint: 'Read before and after it: what it gave is then known. All that may have moved is read again before the piece is signed.'
	},
	surface: {
		words: 'Surface: seen or treated',
		asks: ['surface', 'joint', 'stationMm', 'product', 'minutes', 'finish'],
		must: ['surface'],
		hint: 'Straw and light blue come off by pickling; grey or black and sugared metal is burnt: ground out. Acids by their product sheet: gloves, face shield, rinsed until neutral.'
	},
	'gap-read': {
		words: 'Gap read along a seam',
		asks: ['joint', 'stationMm', 'mm', 'instrument'],
		must: ['joint', 'stationMm', 'mm'],
		hint: 'The thickest blade that goes in without force, every hand’s breadth along the seam: an entry for each.'
	},
	'wall-read': {
		words: 'Wall thickness read',
		asks: ['part', 'mm', 'instrument'],
		must: ['part', 'mm'],
		hint: 'Gauge set on the same metal, film and paint off, at what was ground or looks thin: the thinnest of three places.'
	},
	'leak-tested': {
		words: 'Leak test',
		asks: ['leak', 'minutes', 'joint', 'stationMm'],
		must: ['leak'],
		hint: 'Cold first. Vented at its top and stood on what carries its weight full; water, never compressed air in a thin tank. Filled, left to stand, looked at dry from outside.'
	}
};

/** Choices of a field that is picked from a list. */
export const CHOICES: Readonly<Partial<Record<DataField, Readonly<Record<string, string>>>>> = {
	way: WAY_WORDS,
	surface: SURFACE_WORDS,
	finish: FINISH_WORDS,
	leak: { tight: 'tight', leaks: 'leaks' },
	decided: DECIDED_WORDS
};

export const FIELD_WORDS: Readonly<Record<DataField, string>> = {
	joint: 'Seam',
	stationMm: 'Station',
	mm: 'How much',
	fromMm: 'From',
	toMm: 'To',
	metalC: 'Metal, °C',
	currentA: 'Current, A',
	volts: 'Arc volts, V',
	speedMmPerS: 'Speed, mm/s',
	holdDown: 'Hold-down',
	part: 'Part',
	filler: 'Filler',
	heat: 'Heat number',
	oxygenPct: 'Oxygen, %',
	minutes: 'Minutes',
	instrument: 'Read with',
	source: 'Power source',
	witness: 'Who came',
	way: 'How',
	feature: 'What was to come true',
	foretold: 'Foretold to come to',
	surface: 'What',
	finish: 'Left as',
	product: 'With which product',
	leak: 'What came of it',
	decided: 'What became of it'
};

type Known = Pick<PlanDocument, 'joints' | 'holdDowns' | 'runs' | 'holdPoints'> & {
	parts: readonly { id: string; name: string; thicknessMm?: number }[];
	features: readonly { id: string; name: string }[];
};

/** Which fields belong to a line of this kind, and which must be there. */
function fieldsOf(
	kind: EventKind,
	data: EventData,
	point: HoldPoint | undefined
): { may: readonly (keyof EventData)[]; must: readonly (keyof EventData)[] } {
	if (kind === 'hold-signed' && point) return { may: HOLD_POINT[point.kind].asks, must: [] };
	if (kind === 'laid') return { may: ['fromMm', 'toMm'], must: ['fromMm', 'toMm'] };
	if (kind === 'problem-closed') return { may: ['decided', 'minutes'], must: [] };
	if (kind !== 'happened') return { may: [], must: [] };
	if (!data.what) return { may: ['what'], must: ['what'] };
	const { asks, must, also = [] } = HAPPENING[data.what];
	return { may: ['what', ...asks, ...also], must };
}

/** Faults of what a line carries against its kind and the plan it was tapped on. @param step of the bench, as the line names it */
export function dataFaults(kind: EventKind, data: EventData | undefined, step: string | undefined, plan: Known): Fault[] {
	const given = filledOf(data);
	const run = plan.runs.find((r) => `run:${r.id}` === step);
	const point = (plan.holdPoints ?? []).find((h) => isSignedAt(h.id, step));
	const faults = [...fieldFaults(kind, given, point), ...nameFaults(given, plan)];
	if (kind === 'laid' && !run) faults.push({ field: 'step', value: step ?? 'nothing', allowed: 'must be a run of the plan' });
	const joint = plan.joints.find((j) => j.id === (given.joint ?? run?.joint));
	return joint ? [...faults, ...placeFaults(given, pathLength(joint.a.path))] : faults;
}

const filledOf = (data: EventData | undefined): EventData =>
	Object.fromEntries(Object.entries(data ?? {}).filter(([, v]) => v !== undefined)) as EventData;
const fault = (data: EventData, field: keyof EventData, allowed: string): Fault => ({
	field: `data.${field}`,
	value: String(data[field] ?? 'nothing'),
	allowed
});

/** A hold point has a step of its own wherever its moment comes. */
const isSignedAt = (point: string, step: string | undefined) => step === `sign:${point}` || step?.startsWith(`sign:${point}:`) === true;

function fieldFaults(kind: EventKind, data: EventData, point: HoldPoint | undefined): Fault[] {
	const { may, must } = fieldsOf(kind, data, point);
	const oneOf = kind === 'hold-signed' && point ? HOLD_POINT[point.kind].oneOf : [];
	const keys = Object.keys(data) as (keyof EventData)[];
	return [
		...keys.filter((k) => !may.includes(k)).map((k) => fault(data, k, 'does not belong to this entry')),
		...must.filter((k) => data[k] === undefined).map((k) => fault(data, k, 'must be given')),
		...(oneOf.length && oneOf.every((k) => data[k] === undefined)
			? [fault(data, oneOf[0], `give ${oneOf.map((k) => FIELD_WORDS[k].toLowerCase()).join(' or ')}`)]
			: []),
		...(data.what === 'as-set' && keys.length === 1 ? [fault(data, 'currentA', 'give the current or the speed')] : [])
	];
}

function nameFaults(data: EventData, { joints, holdDowns, parts, features }: Known): Fault[] {
	const lists = [
		['joint', joints, 'a seam'],
		['holdDown', holdDowns, 'a hold-down'],
		['part', parts, 'a part'],
		['feature', features, 'a feature']
	] as const;
	return lists
		.filter(([field, list]) => data[field] !== undefined && !list.some((x) => x.id === data[field]))
		.map(([field, , word]) => fault(data, field, `must be ${word} of the plan`));
}

/** Stations beyond the seam's end; a millimetre more is a tape's. */
function placeFaults(data: EventData, length: number): Fault[] {
	const beyond = (['stationMm', 'fromMm', 'toMm'] as const)
		.filter((k) => (data[k] ?? 0) > length + 1)
		.map((k) => fault(data, k, `must lie on the seam, from 0 to ${length.toFixed(1)} mm`));
	return data.fromMm !== undefined && data.fromMm === data.toMm ? [...beyond, fault(data, 'toMm', 'must differ from where it began')] : beyond;
}

/** A length in a person's unit; a gap or a wall to the hundredth, or what was read is lost. */
type LengthWords = (mm: number, digits?: number) => string;

/** Each in words, in the order they are said; a place from which to where is said once. */
function wordsOf(data: EventData, plan: Known, length: LengthWords): Partial<Record<keyof EventData, string>> {
	const name = (list: readonly { id: string; name: string }[], id: string | undefined) => list.find((x) => x.id === id)?.name ?? id;
	return {
		what: data.what && HAPPENING[data.what].words,
		way: data.way && lower(WAY_WORDS[data.way]),
		surface: data.surface && SURFACE_WORDS[data.surface],
		finish: data.finish && `left ${FINISH_WORDS[data.finish]}`,
		product: `with ${data.product}`,
		leak: data.leak,
		decided: data.decided && DECIDED_WORDS[data.decided],
		feature: `for ${name(plan.features, data.feature)}`,
		joint: `on ${name(plan.joints, data.joint)}`,
		stationMm: `at ${length(data.stationMm ?? 0)}`,
		mm: length(data.mm ?? 0, 2) + (data.what === 'wall-read' ? ofDrawing(plan, data.part, length) : ''),
		fromMm: `${length(data.fromMm ?? 0)} to ${length(data.toMm ?? 0)}`,
		metalC: `${data.metalC} °C`,
		currentA: `${data.currentA} A`,
		volts: `${data.volts} V`,
		speedMmPerS: `${data.speedMmPerS} mm/s`,
		holdDown: name(plan.holdDowns, data.holdDown),
		part: name(plan.parts, data.part),
		filler: data.filler,
		heat: `heat ${data.heat}`,
		oxygenPct: `oxygen ${data.oxygenPct} %`,
		minutes: `${(data.what ?? data.decided) ? '' : 'swept '}${data.minutes} min`,
		instrument: `read with ${data.instrument}`,
		source: `on ${data.source}`,
		witness: `seen by ${data.witness}`
	};
}

/** What the wall has by the drawing, beside what was read of it. */
function ofDrawing({ parts }: Known, id: string | undefined, length: LengthWords): string {
	const drawn = parts.find((p) => p.id === id)?.thicknessMm;
	return drawn === undefined ? '' : ` of ${length(drawn, 2)}`;
}

/** A line's data in words. @param length lengths in the person's unit */
export function dataWords(data: EventData, plan: Known, length: LengthWords): string {
	const given = filledOf(data);
	const parts = Object.entries(wordsOf(given, plan, length)).flatMap(([field, words]) => (field in given && words ? [words] : []));
	return parts.join(', ').replace(', for ', ' for ').replace(', on ', ' on ').replace(', at ', ' at ');
}
const lower = (words: string) => words[0].toLowerCase() + words.slice(1);
