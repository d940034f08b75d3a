/**
 * Plans of older versions, brought to this one step by step when they are read: an issued plan stays stored as it was issued. A change of
 * the document that older plans do not fit raises PLAN_VERSION and adds the step from the version before, with a test of its own.
 */
import { FaultError } from './faults';
import { PLAN_VERSION } from './schema';

type Raw = Record<string, unknown>;
/** From the version it stands under to the next. What it is given is its own to change. */
export type UpgradeStep = (plan: Raw) => Raw;

/** By the version a step starts from. Version 1 is the first: there is nothing before it. */
export const UPGRADES: Readonly<Record<number, UpgradeStep>> = {};

/**
 * @param raw as it was stored or sent; what is no plan at all goes through, for the validators to say so
 * @throws FaultError where it was made by a newer program
 */
export function upgraded(raw: unknown, at = '', steps = UPGRADES, to: number = PLAN_VERSION): unknown {
	const version = (raw as Raw | null | undefined)?.version;
	if (typeof version !== 'number' || !Number.isInteger(version)) return raw;
	const field = at ? `${at}.version` : 'version';
	if (version > to)
		throw new FaultError([{ field, value: String(version), allowed: `at most ${to}: this plan was made by a newer Sarta, which reads it` }]);
	let plan = raw as Raw;
	for (let v = version; v < to; v++) {
		const step = steps[v];
		if (!step) throw new FaultError([{ field, value: String(version), allowed: `${to}: nothing is known of plans of version ${v}` }]);
		plan = { ...step(structuredCopy(plan)), version: v + 1 };
	}
	return plan;
}

/** Plans are plain JSON: core has no host's structuredClone. */
const structuredCopy = (plan: Raw): Raw => JSON.parse(JSON.stringify(plan)) as Raw;
