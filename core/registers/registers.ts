/**
 * What a shop has to work with, kind by kind: what is written of each, and in which unit. The page's forms and lists, the CSV files and the
 * checks at the server go by this table.
 */
import 'reflect-metadata';
import { FaultError, type Fault } from '../document/faults';
import { Day, Int, Maybe, Name, Num, OneOf } from '../document/validators';
import { readAs } from '../document/validate';
import { BAR_METALS, POLARITIES, type Polarity, type RegisterKind } from '../document/words';
import { BAR_SECTIONS } from '../holds/sections';
import { QUANTITIES, QUANTITY_UNIT, type Quantity } from './instruments';

/** What a product does, by the word that the log has for it. */
const TREATS = [
	{ value: 'brushed', name: 'cleans' },
	{ value: 'pickled', name: 'pickles' },
	{ value: 'passivated', name: 'passivates' }
] as const;

class Item {
	@Name() name!: string;
	@Maybe() @Int(1, 10_000) count?: number;
	@Maybe() @Name(300) note?: string;
}
/** Backing bars and chill blocks. */
class BarItem extends Item {
	@OneOf(BAR_METALS.filter((m) => m !== 'own')) material!: Exclude<(typeof BAR_METALS)[number], 'own'>;
	@Num(2, 500) widthMm!: number;
	@Num(1, 200) thicknessMm!: number;
	@Num(5, 10_000) lengthMm!: number;
}
class StrongbackItem extends Item {
	@OneOf(BAR_SECTIONS.map((s) => s.id)) section!: string;
	@Num(20, 20_000) lengthMm!: number;
}
class ClampItem extends Item {
	/** from the middle of its screw to its frame */
	@Num(5, 2000) throatMm!: number;
	@Num(5, 2000) opensMm!: number;
}
export class InstrumentItem extends Item {
	@OneOf(QUANTITIES) reads!: Quantity;
	/** half-width of the range that holds nine readings in ten, in its unit */
	@Num(0.0001, 100) uncertainty90!: number;
	@Maybe() @Day() calibratedOn?: string;
	@Maybe() @Day() dueOn?: string;
}
class SourceItem extends Item {
	@Num(1, 1000) fromA!: number;
	@Num(1, 1000) toA!: number;
	@Maybe() @OneOf(POLARITIES) polarity?: Polarity;
	@Maybe() @Day() calibratedOn?: string;
	@Maybe() @Day() dueOn?: string;
}
class TungstenItem extends Item {
	@Name(40) grade!: string;
	@Num(0.5, 6.4) diameterMm!: number;
}
class CupItem extends Item {
	@Num(3, 40) boreMm!: number;
	@Maybe() @OneOf(['plain', 'lens']) body?: 'plain' | 'lens';
}
class FillerItem extends Item {
	@Name(40) grade!: string;
	@Num(0.3, 6) diameterMm!: number;
	@Name(40) batch!: string;
}
/** What cleans, pickles or passivates: its times by the product's own sheet, typed by the shop. */
class ProductItem extends Item {
	@OneOf(TREATS.map((t) => t.value)) does!: (typeof TREATS)[number]['value'];
	@Num(0.1, 10_000) fromMin!: number;
	@Num(0.1, 10_000) toMin!: number;
	@Maybe() @Name(120) sheet?: string;
}
export interface ItemOf {
	bar: BarItem;
	strongback: StrongbackItem;
	clamp: ClampItem;
	instrument: InstrumentItem;
	source: SourceItem;
	tungsten: TungstenItem;
	cup: CupItem;
	filler: FillerItem;
	product: ProductItem;
}
export type RegisterItem = ItemOf[RegisterKind];

/** A field as it is asked for, listed and written: lengths in mm. */
export type RegisterField = { key: string; label: string; must?: true } & (
	{ is: 'words' | 'day' } | { is: 'length' } | { is: 'number'; unit?: string } | { is: 'choice'; items: readonly { value: string; name: string }[] }
);
interface Register {
	/** several, at the head of a list; one, on a button */
	words: string;
	one: string;
	/** read from a row or a form */
	type: new () => RegisterItem;
	fields: readonly RegisterField[];
}

const same = (values: readonly string[]) => values.map((value) => ({ value, name: value }));
const NAME: RegisterField = { key: 'name', label: 'Name or mark', is: 'words', must: true };
const REST: readonly RegisterField[] = [
	{ key: 'count', label: 'How many', is: 'number' },
	{ key: 'note', label: 'Note', is: 'words' }
];
const CALIBRATION: readonly RegisterField[] = [
	{ key: 'calibratedOn', label: 'Calibrated on', is: 'day' },
	{ key: 'dueOn', label: 'Good until', is: 'day' }
];

export const REGISTERS: Readonly<Record<RegisterKind, Register>> = {
	bar: {
		words: 'Bars and chill blocks',
		one: 'bar or block',
		type: BarItem,
		fields: [
			NAME,
			{ key: 'material', label: 'Metal', is: 'choice', must: true, items: same(BAR_METALS.filter((m) => m !== 'own')) },
			{ key: 'widthMm', label: 'Width', is: 'length', must: true },
			{ key: 'thicknessMm', label: 'Thickness', is: 'length', must: true },
			{ key: 'lengthMm', label: 'Length', is: 'length', must: true },
			...REST
		]
	},
	strongback: {
		words: 'Strongbacks',
		one: 'strongback',
		type: StrongbackItem,
		fields: [
			NAME,
			{ key: 'section', label: 'Section', is: 'choice', must: true, items: BAR_SECTIONS.map(({ id, name }) => ({ value: id, name })) },
			{ key: 'lengthMm', label: 'Length', is: 'length', must: true },
			...REST
		]
	},
	clamp: {
		words: 'Clamps',
		one: 'kind of clamp',
		type: ClampItem,
		fields: [
			NAME,
			{ key: 'throatMm', label: 'Reaches in', is: 'length', must: true },
			{ key: 'opensMm', label: 'Opens to', is: 'length', must: true },
			...REST
		]
	},
	instrument: {
		words: 'Instruments',
		one: 'instrument',
		type: InstrumentItem,
		fields: [
			NAME,
			{ key: 'reads', label: 'Reads', is: 'choice', must: true, items: QUANTITIES.map((q) => ({ value: q, name: `${q}, ${QUANTITY_UNIT[q]}` })) },
			{ key: 'uncertainty90', label: 'Nine readings in ten within ±', is: 'number', must: true },
			...CALIBRATION,
			...REST
		]
	},
	source: {
		words: 'Power sources',
		one: 'power source',
		type: SourceItem,
		fields: [
			NAME,
			{ key: 'fromA', label: 'From', is: 'number', unit: 'A', must: true },
			{ key: 'toA', label: 'To', is: 'number', unit: 'A', must: true },
			{ key: 'polarity', label: 'Polarity', is: 'choice', items: same(POLARITIES) },
			...CALIBRATION,
			...REST
		]
	},
	tungsten: {
		words: 'Tungstens',
		one: 'tungsten',
		type: TungstenItem,
		fields: [
			NAME,
			{ key: 'grade', label: 'Grade', is: 'words', must: true },
			{ key: 'diameterMm', label: 'Diameter', is: 'length', must: true },
			...REST
		]
	},
	cup: {
		words: 'Cups',
		one: 'cup',
		type: CupItem,
		fields: [
			NAME,
			{ key: 'boreMm', label: 'Bore', is: 'length', must: true },
			{
				key: 'body',
				label: 'Behind it',
				is: 'choice',
				items: [
					{ value: 'plain', name: 'collet body' },
					{ value: 'lens', name: 'gas lens' }
				]
			},
			...REST
		]
	},
	filler: {
		words: 'Filler batches',
		one: 'filler batch',
		type: FillerItem,
		fields: [
			NAME,
			{ key: 'grade', label: 'Grade', is: 'words', must: true },
			{ key: 'diameterMm', label: 'Diameter', is: 'length', must: true },
			{ key: 'batch', label: 'Batch', is: 'words', must: true },
			...REST
		]
	},
	product: {
		words: 'Cleaning and pickling products',
		one: 'product',
		type: ProductItem,
		fields: [
			NAME,
			{ key: 'does', label: 'It', is: 'choice', must: true, items: TREATS },
			{ key: 'fromMin', label: 'Left on, by its sheet, from', is: 'number', unit: 'min', must: true },
			{ key: 'toMin', label: 'to', is: 'number', unit: 'min', must: true },
			{ key: 'sheet', label: 'Its sheet, and where it is kept', is: 'words' },
			...REST
		]
	}
};

/** How long a product is left on, by the sheet that the shop has typed it from. */
export const productWords = ({ name, does, fromMin, toMin, sheet }: ProductItem): string =>
	`${name} ${TREATS.find((t) => t.value === does)!.name}: ${fromMin === toMin ? fromMin : `${fromMin} to ${toMin}`} min${sheet ? ` (${sheet})` : ' by its sheet'}`;

/** Where two fields do not go together. */
function together(kind: RegisterKind, item: RegisterItem): Fault[] {
	const faults: Fault[] = [];
	const { fromA, toA, calibratedOn, dueOn } = item as Partial<SourceItem>;
	const { fromMin, toMin } = item as Partial<ProductItem>;
	if (kind === 'product' && toMin! < fromMin!) faults.push({ field: 'toMin', value: String(toMin), allowed: `must be at least ${fromMin}` });
	if (kind === 'source' && toA! < fromA!) faults.push({ field: 'toA', value: String(toA), allowed: `must be at least ${fromA}` });
	if (calibratedOn && dueOn && dueOn < calibratedOn) faults.push({ field: 'dueOn', value: dueOn, allowed: `must not be before ${calibratedOn}` });
	return faults;
}

/** One thing of the shop's as somebody wrote it. @throws FaultError naming fields */
export function readItem(kind: RegisterKind, raw: unknown): RegisterItem {
	const { value, faults } = readAs(REGISTERS[kind].type, raw);
	const all = value ? together(kind, value) : faults;
	if (!value || all.length) throw new FaultError(all);
	return value;
}
