/** class-validator behind one door: a decorated class in, a typed instance or a list of faults out. */
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { shown, type Fault } from './faults';

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
				allowed: unknown ? 'this field is not known here' : (error.constraints.isNumber ?? error.constraints.isInt ?? rules[rules.length - 1])
			});
		}
		if (error.children?.length) flatten(error.children, field, out);
	}
}

/** How deep a document may be nested; deeper ones are refused before anything walks them. */
const MAX_DEPTH = 12;
/** Also guards the names that would reach an object's prototype, and empty places below the first level. */
function unsafe(value: unknown, path: string, depth: number): Fault | undefined {
	if (typeof value !== 'object' || value === null) return undefined;
	if (depth > MAX_DEPTH) return { field: path, value: 'deeper nesting', allowed: `at most ${MAX_DEPTH} levels` };
	for (const key of Object.keys(value)) {
		const here = path === '' ? key : `${path}.${key}`;
		if (key === '__proto__' || key === 'constructor' || key === 'prototype')
			return { field: here, value: key, allowed: 'this field is not known here' };
		if (depth > 0 && (value as Record<string, unknown>)[key] === null) return { field: here, value: 'null', allowed: 'leave the field out instead' };
		const found = unsafe((value as Record<string, unknown>)[key], here, depth + 1);
		if (found) return found;
	}
	return undefined;
}

/** @param at path put before each field's name. */
export function readAs<T extends object>(
	type: new () => T,
	raw: unknown,
	at = ''
): { value: T; faults: [] } | { value?: undefined; faults: Fault[] } {
	if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
		return { faults: [{ field: at || 'document', value: shown(raw), allowed: 'must be an object' }] };
	const danger = unsafe(raw, at, 0);
	if (danger) return { faults: [danger] };
	const value = plainToInstance(type, raw, { enableImplicitConversion: false });
	const faults: Fault[] = [];
	flatten(validateSync(value, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: false }), at, faults);
	return faults.length ? { faults } : { value, faults: [] };
}
