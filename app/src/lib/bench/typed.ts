/** What is typed at the bench, read as everywhere in Sarta and held against the plan as the server will: offline nothing else would say so in time. */
import { readAs } from '$core/document/validate';
import type { PlanDocument } from '$core/document/schema';
import type { EventKind } from '$core/document/words';
import { parseLength, type LengthUnit } from '$core/units/length';
import type { BenchStep } from '$core/weldout/benchSteps';
import { dataFaults, EventData, FIELD_WORDS, HAPPENING, type DataField, type HappeningKind } from '$core/weldout/happenings';

/** Lengths, in the person's unit; the rest are numbers, but for names and what is chosen from a list. */
const LENGTHS: readonly DataField[] = ['stationMm', 'mm', 'fromMm', 'toMm'];
const WORDS: readonly DataField[] = [
	'filler',
	'heat',
	'joint',
	'holdDown',
	'part',
	'witness',
	'instrument',
	'source',
	'way',
	'feature',
	'surface',
	'finish',
	'product',
	'leak',
	'decided'
];
export const isLength = (field: DataField) => LENGTHS.includes(field);
export const isWords = (field: DataField) => WORDS.includes(field);

/** What the step in hand says already of what is asked, and of nothing else. */
export function filledFrom(what: HappeningKind, step: BenchStep | undefined): Partial<Record<DataField, string>> {
	const said: Partial<Record<DataField, string>> = {
		...(step && 'joint' in step ? { joint: step.joint } : {}),
		...(step?.kind === 'hold' ? { holdDown: step.holdDown } : {})
	};
	return Object.fromEntries(HAPPENING[what].asks.flatMap((f) => (said[f] === undefined ? [] : [[f, said[f]]])));
}

export interface Typed {
	data?: EventData;
	/** in words; empty: it can be logged */
	faults: string[];
}

/** @param text as typed, by field; what is empty is left out @param step of the bench it is logged at */
export function readTyped(
	kind: EventKind,
	what: HappeningKind | undefined,
	text: Partial<Record<DataField, string>>,
	step: string | undefined,
	plan: PlanDocument,
	unit: LengthUnit
): Typed {
	const raw: Record<string, unknown> = what ? { what } : {};
	const faults: string[] = [];
	for (const [key, typed] of Object.entries(text) as [DataField, string][]) {
		const t = typed.trim();
		if (!t) continue;
		if (isWords(key)) raw[key] = t;
		else if (isLength(key)) {
			const read = parseLength(t, { unit });
			if (read.ok) raw[key] = read.mm;
			else faults.push(`${FIELD_WORDS[key]}: ${read.message}`);
		} else if (Number.isFinite(Number(t.replace(',', '.')))) raw[key] = Number(t.replace(',', '.'));
		else faults.push(`${FIELD_WORDS[key]}: “${t}” is not a number`);
	}
	if (faults.length) return { faults };
	const read = readAs(EventData, raw);
	const found = read.value ? dataFaults(kind, read.value, step, plan) : read.faults;
	const name = (field: string) => FIELD_WORDS[field.replace(/^data\./, '') as DataField] ?? field;
	return found.length ? { faults: found.map((f) => `${name(f.field)}: ${f.allowed}`) } : { data: raw as unknown as EventData, faults: [] };
}
