/** What a way of reading asks for, as the page lays it out. */
import { METHOD_KINDS, type Method } from '$core/measure/methods';
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
