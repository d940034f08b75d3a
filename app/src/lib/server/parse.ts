/** Text into what a route accepts, or the faults of it. */
import { planFaults } from '$core/reading/readPlan';
import { FaultError, shown } from '$core/document/faults';
import { readAs } from '$core/document/validate';
import { PlanBody } from './dto';

/** @throws FaultError */
export function parseJson(text: string, field: string): unknown {
	try {
		return JSON.parse(text);
	} catch {
		throw new FaultError([{ field, value: shown(text.slice(0, 200)), allowed: 'must be JSON' }]);
	}
}

/** @throws FaultError with every fault */
export function parseAs<T extends object>(type: new () => T, text: string): T {
	const read = readAs(type, parseJson(text, 'body'));
	if (!read.value) throw new FaultError(read.faults);
	return read.value;
}

/** What stands in an address behind the question mark. @param numbers fields that are numbers. @throws FaultError with every fault */
export function queryAs<T extends object>(type: new () => T, url: URL, numbers: readonly (keyof T & string)[]): T {
	const raw: Record<string, unknown> = Object.fromEntries(url.searchParams);
	for (const key of numbers) if (key in raw) raw[key] = Number(raw[key]);
	const read = readAs(type, raw);
	if (!read.value) throw new FaultError(read.faults);
	return read.value;
}

/** What a save sends: sound in its shape and in its sense. @throws FaultError */
export function planBody(text: string): PlanBody {
	const body = parseAs(PlanBody, text);
	const faults = planFaults(body.plan);
	if (faults.length) throw new FaultError(faults);
	return body;
}

/** Faults of what was read, named as parts of the field that it stood in. @throws FaultError */
export function inField<T>(field: string, read: () => T): T {
	try {
		return read();
	} catch (e) {
		if (!(e instanceof FaultError)) throw e;
		throw new FaultError(e.faults.map((f) => ({ ...f, field: `${field}.${f.field}` })));
	}
}
