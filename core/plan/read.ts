/** The one way into a plan: shape, then sense. */
import { checkPlan } from './check';
import type { Fault } from '../document/faults';
import { FaultError } from '../document/faults';
import { PlanDocument } from '../document/schema';
import { readAs } from '../document/validate';

/** @returns the plan, or every fault found; never half of either */
export function readPlan(raw: unknown, at = ''): { plan: PlanDocument; faults: [] } | { plan?: undefined; faults: Fault[] } {
	const read = readAs(PlanDocument, raw, at);
	if (!read.value) return { faults: read.faults };
	const faults = checkPlan(read.value).map((f) => (at ? { ...f, field: `${at}.${f.field}` } : f));
	return faults.length ? { faults } : { plan: read.value, faults: [] };
}

/** @throws FaultError */
export function planOf(raw: unknown): PlanDocument {
	const read = readPlan(raw);
	if (!read.plan) throw new FaultError(read.faults);
	return read.plan;
}
