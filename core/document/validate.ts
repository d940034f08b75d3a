/** class-validator behind one door: a decorated class in, a typed instance or a list of faults out. */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { shown, type Fault } from './faults';

/** Where several rules are broken, what to say first: nothing given breaks them all. */
const PLAINEST = ['isNumber', 'isInt', 'isString', 'minLength'];

function flatten(errors: ValidationError[], path: string, out: Fault[]) {
	for (const error of errors) {
		const isIndex = /^\d+$/.test(error.property);
		const field = path === '' ? error.property : isIndex ? `${path}[${error.property}]` : `${path}.${error.property}`;
		if (error.constraints) {
			const unknown = 'whitelistValidation' in error.constraints;
			const rules = Object.values(error.constraints);
			out.push({
				field,
				value: shown(error.value),
				allowed: unknown ? 'this field is not known here' : (PLAINEST.map((k) => error.constraints![k]).find(Boolean) ?? rules[rules.length - 1])
			});
		}
		if (error.children?.length) flatten(error.children, field, out);
	}
}

/** What a document may measure before anything works on it. */
export interface DocumentLimits {
	/** levels of nesting */
	depth: number;
	/** fields and list entries, all told */
	values: number;
}
export const DOCUMENT_LIMITS: DocumentLimits = { depth: 12, values: 100_000 };
/** More than these are counted, not told: an answer stays a page long. */
const MOST_FAULTS = 200;

/**
 * One walk over what was sent, in linear time and without recursion deeper than the limit: depth, number of values, names that would reach
 * an object's prototype, and empty places below the first level.
 */
function unsafe(root: object, at: string, { depth: deepest, values: most }: DocumentLimits): Fault | undefined {
	let count = 0;
	const walk = (value: unknown, path: string, depth: number): Fault | undefined => {
		if (typeof value !== 'object' || value === null) return undefined;
		if (depth > deepest) return { field: path, value: 'deeper nesting', allowed: `at most ${deepest} levels` };
		for (const key in value) {
			const here = path === '' ? key : `${path}.${key}`;
			if (++count > most) return { field: at || 'document', value: `more than ${most} values`, allowed: `at most ${most} values` };
			if (key === '__proto__' || key === 'constructor' || key === 'prototype')
				return { field: here, value: key, allowed: 'this field is not known here' };
			const inner = (value as Record<string, unknown>)[key];
			if (depth > 0 && inner === null) return { field: here, value: 'null', allowed: 'leave the field out instead' };
			const found = walk(inner, here, depth + 1);
			if (found) return found;
		}
		return undefined;
	};
	return walk(root, at, 0);
}

/** @param at path put before each field's name; @param limits sizes that are refused before anything is worked on */
export function readAs<T extends object>(
	type: new () => T,
	raw: unknown,
	at = '',
	limits = DOCUMENT_LIMITS
): { value: T; faults: [] } | { value?: undefined; faults: Fault[] } {
	if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
		return { faults: [{ field: at || 'document', value: shown(raw), allowed: 'must be an object' }] };
	const danger = unsafe(raw, at, limits);
	if (danger) return { faults: [danger] };
	const value = plainToInstance(type, raw, { enableImplicitConversion: false });
	const faults: Fault[] = [];
	flatten(validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: false }), at, faults);
	if (faults.length > MOST_FAULTS)
		return {
			faults: [
				...faults.slice(0, MOST_FAULTS),
				{ field: at || 'document', value: `${faults.length} faults`, allowed: `the first ${MOST_FAULTS} are told: put these right first` }
			]
		};
	return faults.length ? { faults } : { value, faults: [] };
}
