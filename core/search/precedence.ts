/** What must be welded before what: assembly steps, passes, the adjusting joint, and what closes a seam off. */
import { accessFindings } from '../access/access';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { PlanDocument, Run } from '../document/schema';
import { Refusal } from '../refusal/refusal';
import { Assembly } from '../sequence/assembly';
import { longSeams, overlaps } from '../sequence/precedence';

export interface Precedence {
	/** ids of runs */
	before: string;
	after: string;
	why: string;
}

/** @returns every pair of runs of which one must come first, with the reason in words */
export function precedenceOf(plan: PlanDocument, mesh: AssemblyMesh): Precedence[] {
	const out: Precedence[] = [];
	const name = (id: string) => plan.joints.find((j) => j.id === id)!.name;
	const assembly = new Assembly(plan);
	const long = longSeams(plan);
	const last = plan.fitUp.adjustingJoint;
	const closed = new Map<string, number>();
	if (assembly.steps.length > 1) for (const f of accessFindings(plan, mesh)) if (f.kind === 'closed' && f.joint) closed.set(f.joint, f.step);
	for (const p of plan.runs)
		for (const q of plan.runs) {
			if (p === q) continue;
			const put = (why: string) => out.push({ before: p.id, after: q.id, why });
			const [then, now] = [assembly.ofJoint(q.joint), assembly.ofJoint(p.joint)];
			if (p.joint === q.joint) {
				if (p.pass < q.pass && overlaps(p, q)) put(`pass ${p.pass} of “${name(p.joint)}” lies under pass ${q.pass}`);
			} else if (now < then) {
				const step = assembly.steps[then].name;
				put(
					(closed.get(p.joint) ?? Infinity) <= then
						? `${step} closes off “${name(p.joint)}”`
						: `“${name(q.joint)}” belongs to a later step of the assembly (${step})`
				);
			} else if (now === then && last === q.joint) put(`“${name(q.joint)}” is the adjusting joint and comes last`);
			else if (now === then && last !== p.joint && long.has(p.joint) && !long.has(q.joint))
				put(`“${name(p.joint)}” closes a rolled sheet, before it meets another`);
		}
	return out;
}

/** The first pair that an order lays the wrong way round, if any. */
export function brokenBy(order: readonly Run[], rules: readonly Precedence[]): Precedence | undefined {
	const place = new Map(order.map((r, i) => [r.id, i]));
	return rules.find((r) => (place.get(r.before) ?? -1) > (place.get(r.after) ?? Infinity));
}

/**
 * An order that keeps every rule and every locked place, as near as may be to the one given.
 * @throws RangeError naming what clashes
 */
export function feasibleOrder(runs: readonly Run[], rules: readonly Precedence[]): Run[] {
	const needs = new Map(runs.map((r) => [r.id, rules.filter((x) => x.after === r.id)]));
	const done = new Set<string>();
	const left = runs.filter((r) => !r.locked);
	const number = (id: string) => runs.findIndex((r) => r.id === id) + 1;
	const out: Run[] = [];
	const open = (r: Run) => needs.get(r.id)!.find((x) => !done.has(x.before));
	for (let i = 0; i < runs.length; i++) {
		let next: Run | undefined;
		if (runs[i].locked) {
			next = runs[i];
			const missing = open(next);
			if (missing)
				throw new Refusal(
					`Run ${i + 1} is locked in its place, but run ${number(missing.before)} must come before it: ${missing.why}. Unlock one of them, or lock run ${i + 1} later.`
				);
		} else {
			// a locked run that comes later may need some of these first: they go ahead of the rest
			const urgent = lockedNeeds(runs, i, needs, done);
			const free = left.filter((r) => !open(r));
			next = free.find((r) => urgent.has(r.id)) ?? free[0];
			if (!next) {
				const clash = left.length ? open(left[0]) : undefined;
				throw new Refusal(
					clash
						? `No order is possible: run ${number(clash.after)} waits for run ${number(clash.before)} (${clash.why}), which waits in turn. Change the assembly order, the adjusting joint or the locks.`
						: 'No order is possible with these locks.'
				);
			}
			left.splice(left.indexOf(next), 1);
		}
		done.add(next.id);
		out.push(next);
	}
	return out;
}

/** Runs that a locked run farther on needs, directly or through others, and that fill the places up to it. */
function lockedNeeds(runs: readonly Run[], from: number, needs: ReadonlyMap<string, readonly Precedence[]>, done: ReadonlySet<string>): Set<string> {
	for (let k = from; k < runs.length; k++) {
		if (!runs[k].locked) continue;
		const out = new Set<string>();
		const ask = (id: string) => {
			for (const x of needs.get(id) ?? [])
				if (!done.has(x.before) && !out.has(x.before)) {
					out.add(x.before);
					ask(x.before);
				}
		};
		ask(runs[k].id);
		if (out.size) return out;
	}
	return new Set();
}
