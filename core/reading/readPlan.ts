/** The one way into a plan, whoever brings it: shape first, then sense, its family's sizes among it. */
import { FaultError, type Fault } from '../document/faults';
import { PlanDocument } from '../document/schema';
import { upgraded } from '../document/upgrade';
import { readAs } from '../document/validate';
import { familyFaults } from '../families/readSizes';
import { checkPlan } from '../plan/check';

/** What is wrong with a plan whose shape is right. @param at where it lies in what was given, for the fields' names */
export function planFaults(plan: PlanDocument, at = ''): Fault[] {
	const faults = [...checkPlan(plan), ...familyFaults(plan)];
	return at ? faults.map((f) => ({ ...f, field: `${at}.${f.field}` })) : faults;
}

/** @returns the plan, or every fault found; never half of either */
export function readPlan(raw: unknown, at = ''): { plan: PlanDocument; faults: [] } | { plan?: undefined; faults: Fault[] } {
	let current: unknown;
	try {
		current = upgraded(raw, at);
	} catch (e) {
		if (!(e instanceof FaultError)) throw e;
		return { faults: e.faults };
	}
	const read = readAs(PlanDocument, current, at);
	if (!read.value) return { faults: read.faults };
	const faults = planFaults(read.value, at);
	return faults.length ? { faults } : { plan: read.value, faults: [] };
}

/** @throws FaultError */
export function planOf(raw: unknown): PlanDocument {
	const read = readPlan(raw);
	if (!read.plan) throw new FaultError(read.faults);
	return read.plan;
}
