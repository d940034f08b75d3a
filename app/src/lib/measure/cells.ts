/** What a way of reading asks for, as the page lays it out. */
import { METHOD_KINDS, type Method } from '$core/measure/methods';
import { parseLength } from '$core/units/length';
import { unitsOf, type ReadingContext, type ReadingUnit } from '$core/measure/methods/method';

export interface Cells {
	labels: string[];
	units: ReadingUnit[];
	columns: number;
	isPoints: boolean;
	chosen?: { least: number; most: number };
	/** unit of lengths, as the person types them */
	lengths: 'mm' | 'in';
}

/** How many readings a way takes, where nobody has chosen otherwise. */
export const usualCount = (method: Method, context: ReadingContext): number => {
	const kind = METHOD_KINDS[method];
	return kind.chosen ? kind.chosen.usual(context) : kind.labels(context).length;
};

/** A cell as typed: a length in any way a shop writes one (3/8, 60 thou, 1,5), degrees as a number. @returns mm or degrees, or what is wrong */
export function readCell(text: string, asks: ReadingUnit, lengths: 'mm' | 'in'): { value: number } | { wrong: string } {
	if (asks === 'mm') {
		const read = parseLength(text, { unit: lengths });
		return read.ok ? { value: read.mm } : { wrong: read.message };
	}
	const value = Number(text.trim().replace(',', '.'));
	return Number.isFinite(value) ? { value } : { wrong: `“${text.trim()}” is not a number of degrees` };
}

/** @param count of readings, where a person chooses it */
export function cellsOf(method: Method, context: ReadingContext, count: number, lengths: 'mm' | 'in'): Cells {
	const kind = METHOD_KINDS[method];
	const here = kind.chosen ? { ...context, places: count } : context;
	return {
		labels: kind.labels(here),
		units: unitsOf(kind, here),
		columns: kind.columns(here),
		isPoints: kind.isPoints ?? false,
		chosen: kind.chosen,
		lengths
	};
}
