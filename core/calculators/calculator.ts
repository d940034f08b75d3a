/** What a calculator has to say for itself. Lengths are mm inside; pages and links convert at their edge. */
import { Refusal } from '../refusal/refusal';

export interface CalcField {
	id: string;
	label: string;
	kind: 'length' | 'number' | 'choice' | 'list';
	/** beside the label; lengths follow the person's unit */
	unit?: string;
	/** allowed, of a length in mm; of a list for each of its numbers */
	min?: number;
	max?: number;
	/** of a choice */
	options?: readonly { value: string; name: string }[];
	/** what it begins with: an example that can be worked by hand */
	start: number | string | readonly number[];
}
export interface CalcLine {
	label: string;
	value: number;
	kind: 'length' | 'number';
	unit?: string;
	digits?: number;
	/** the one that was asked for */
	isMain?: boolean;
}
/** Strokes and words in a box of 240 x 120: `part` the piece, `mark` what is read, `light` what helps. */
export interface CalcDrawing {
	strokes: readonly { d: string; as: 'part' | 'mark' | 'light' }[];
	words: readonly { x: number; y: number; text: string }[];
}
export interface Calculator {
	id: string;
	title: string;
	/** when it is wanted, in a sentence */
	use: string;
	fields: readonly CalcField[];
	/** @throws Refusal where no such thing can be */
	work(v: CalcValues): CalcLine[];
	formula: string;
	source: string;
	drawing: CalcDrawing;
	note?: string;
}

/** What was typed, as the fields want it. */
export interface CalcValues {
	number(id: string): number;
	choice(id: string): string;
	list(id: string): readonly number[];
}
export interface CalcFault {
	field: string;
	message: string;
}
export type CalcAnswer = { ok: true; lines: CalcLine[] } | { ok: false; faults: CalcFault[] };

/** Values as a link carries them: by field, lengths in mm, lists with blanks between. */
export type CalcTyped = Readonly<Record<string, string>>;

export const startOf = (c: Calculator): Record<string, string> =>
	Object.fromEntries(c.fields.map((f) => [f.id, Array.isArray(f.start) ? f.start.join(' ') : String(f.start)]));

/** A number as people write it, with a point or a comma. */
const numberOf = (text: string): number => (/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(text) ? Number(text.replace(',', '.')) : NaN);

function faultOf(f: CalcField, text: string): string | undefined {
	if (f.kind === 'choice') {
		const { options = [] } = f;
		return options.some((o) => o.value === text) ? undefined : `must be one of ${options.map((o) => o.name).join(', ')}`;
	}
	const numbers = f.kind === 'list' ? text.trim().split(/[\s;]+/) : [text.trim()];
	const { min = -1e9, max = 1e9 } = f;
	if (f.kind === 'list' && numbers.length < 2) return 'give at least two numbers, with blanks between them';
	for (const n of numbers) {
		const v = numberOf(n);
		if (!Number.isFinite(v)) return n === '' ? 'must be given' : `“${n.slice(0, 20)}” is not a number`;
		if (v < min || v > max) return `${n} is not allowed: ${min} to ${max}${f.kind === 'length' ? ' mm' : f.unit ? ` ${f.unit}` : ''}`;
	}
	return undefined;
}

/** Every fault beside its field, or the answer. */
export function calculate(c: Calculator, typed: CalcTyped): CalcAnswer {
	const faults = c.fields.flatMap((f): CalcFault[] => {
		const message = faultOf(f, typed[f.id] ?? '');
		return message ? [{ field: f.id, message }] : [];
	});
	if (faults.length) return { ok: false, faults };
	const text = (id: string) => typed[id].trim();
	try {
		const lines = c.work({
			number: (id) => numberOf(text(id)),
			choice: text,
			list: (id) =>
				text(id)
					.split(/[\s;]+/)
					.map(numberOf)
		});
		const bad = lines.find((l) => !Number.isFinite(l.value));
		if (bad) return { ok: false, faults: [{ field: c.fields[0].id, message: `gives no number for “${bad.label}”` }] };
		return { ok: true, lines };
	} catch (e) {
		if (e instanceof Refusal) return { ok: false, faults: [{ field: c.fields[0].id, message: e.message }] };
		throw e;
	}
}
