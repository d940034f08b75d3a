/** What must come before what, without looking at the shape: steps of the assembly, passes, the joint that takes up the error of the rest. */
import type { PlanDocument, Run, Tack } from '../document/schema';
import { Assembly, stepsOf } from './assembly';

export type Ordered = Pick<PlanDocument, 'parts' | 'joints' | 'fitUp' | 'tacks' | 'runs'>;

/** Two runs of one seam share a length of it. */
export const overlaps = (p: Run, q: Run) =>
	Math.min(Math.max(p.fromMm, p.toMm), Math.max(q.fromMm, q.toMm)) - Math.max(Math.min(p.fromMm, p.toMm), Math.min(q.fromMm, q.toMm)) > 0.5;

/** What an order breaks, in the planner's words. */
export interface Broken {
	what: 'run' | 'tack';
	/** ids of runs or tacks: this one stands after the other and must come before it */
	before: string;
	after: string;
	words: string;
}

/** Seams that close a rolled or coned sheet upon itself. */
export function longSeams(plan: Pick<PlanDocument, 'parts' | 'joints'>): Set<string> {
	const rolled = new Set(plan.parts.filter((p) => p.roll ?? p.cone).map((p) => p.id));
	return new Set(plan.joints.filter((j) => j.a.part === j.b.part && rolled.has(j.a.part)).map((j) => j.id));
}

/** Ranks: a lower one comes first. Within a step a rolled sheet is closed before it meets another; the joint that takes up the error of the rest comes last. */
class Ranks {
	private readonly assembly: Assembly;
	/** long seams of rolled and coned sheets */
	private readonly long: ReadonlySet<string>;
	constructor(private readonly plan: Ordered) {
		this.assembly = new Assembly(plan);
		this.long = longSeams(plan);
	}
	readonly of = (x: Run | Tack) => 3 * this.assembly.ofJoint(x.joint) + this.within(x.joint);
	readonly stepOf = (x: Run | Tack) => this.assembly.ofJoint(x.joint);
	/** what locates before what closes up: how tacks are laid, no law for who sets them otherwise */
	readonly laid = (t: Tack) => 6 * this.assembly.ofJoint(t.joint) + 3 * Number(t.stage !== 1) + this.within(t.joint);
	private within(joint: string) {
		return joint === this.plan.fitUp.adjustingJoint ? 2 : this.long.has(joint) ? 0 : 1;
	}
	why(before: string, after: string): string {
		const name = (id: string) => `“${this.plan.joints.find((j) => j.id === id)?.name ?? id}”`;
		const [p, q] = [this.assembly.ofJoint(before), this.assembly.ofJoint(after)];
		if (p < q) return `${name(before)} belongs before “${this.assembly.steps[q].name}” comes on, and ${name(after)} after it`;
		if (this.long.has(before) && before !== after) return `${name(before)} closes a rolled sheet, before it meets another`;
		return `${name(after)} is left until last, to take up the error of the rest`;
	}
}

const byRank = <T>(list: readonly T[], rank: (x: T) => number): T[] => {
	const ranked = list.map((x, i) => ({ x, i, r: rank(x) }));
	return ranked.sort((p, q) => p.r - q.r || p.i - q.i).map((p) => p.x);
};

/** The first thing that stands before what must precede it: the later of the two is the one that comes too late. */
function firstDrop<T extends { joint: string; id: string }>(list: readonly T[], rank: (x: T) => number): { early: T; late: T } | undefined {
	let top: T | undefined;
	for (const x of list) {
		if (top && rank(x) < rank(top)) return { early: top, late: x };
		if (!top || rank(x) > rank(top)) top = x;
	}
	return undefined;
}

/** @returns the first thing an order of tacks and runs breaks, or undefined */
export function brokenRule(plan: Ordered): Broken | undefined {
	const ranks = new Ranks(plan);
	const number = (r: Run) => plan.runs.indexOf(r) + 1;
	const run = firstDrop(plan.runs, ranks.of);
	if (run)
		return {
			what: 'run',
			before: run.late.id,
			after: run.early.id,
			words: `Run ${number(run.late)} must come before run ${number(run.early)}: ${ranks.why(run.late.joint, run.early.joint)}.`
		};
	const seen = new Map<string, Run[]>();
	for (const r of plan.runs) {
		const own = seen.get(r.joint) ?? [];
		const over = own.find((o) => o.pass > r.pass && overlaps(o, r));
		if (over)
			return {
				what: 'run',
				before: r.id,
				after: over.id,
				words: `Run ${number(r)} must come before run ${number(over)}: pass ${r.pass} lies under pass ${over.pass}.`
			};
		seen.set(r.joint, [...own, r]);
	}
	const tack =
		firstDrop(plan.tacks, ranks.stepOf) ??
		[1, 2]
			.map((stage) =>
				firstDrop(
					plan.tacks.filter((t) => t.stage === stage),
					ranks.of
				)
			)
			.find((drop) => drop !== undefined);
	if (tack)
		return {
			what: 'tack',
			before: tack.late.id,
			after: tack.early.id,
			words: `Tack ${plan.tacks.indexOf(tack.late) + 1} must come before tack ${plan.tacks.indexOf(tack.early) + 1}: ${ranks.why(tack.late.joint, tack.early.joint)}.`
		};
	return undefined;
}

/** For each run those that must lie before it, whatever else the order is: of earlier steps, of seams that come first, of passes under it. */
export function runsBefore(plan: Ordered): Map<string, string[]> {
	const { of } = new Ranks(plan);
	const under = (p: Run, q: Run) => p.joint === q.joint && p.pass < q.pass && overlaps(p, q);
	return new Map(plan.runs.map((r) => [r.id, plan.runs.filter((p) => of(p) < of(r) || under(p, r)).map((p) => p.id)]));
}

/** Tacks step by step of the assembly, in each what locates before what closes up, else as given. */
export const tacksInOrder = (plan: Ordered, tacks: readonly Tack[] = plan.tacks): Tack[] => byRank(tacks, new Ranks(plan).laid);

/** Runs step by step of the assembly, lower passes first where runs lie on one another, else as given; locked runs keep their places. */
export function runsInOrder(plan: Ordered, runs: readonly Run[] = plan.runs): Run[] {
	const sorted = passesInOrder(
		byRank(
			runs.filter((r) => !r.locked),
			new Ranks(plan).of
		)
	);
	return runs.map((r) => (r.locked ? r : sorted.shift()!));
}

/** Runs of one seam that lie on one another change places until the lower pass is first; their places among the rest stay. */
function passesInOrder(runs: readonly Run[]): Run[] {
	const out = [...runs];
	const joints = new Set(out.filter((r) => r.pass > 1).map((r) => r.joint));
	for (const joint of joints) {
		const places = out.flatMap((r, i) => (r.joint === joint ? [i] : []));
		const own = byRank(
			places.map((i) => out[i]),
			(r) => r.pass
		);
		if (places.some((i, k) => places.slice(k + 1).some((j) => out[i].pass > out[j].pass && overlaps(out[i], out[j]))))
			places.forEach((i, k) => (out[i] = own[k]));
	}
	return out;
}

/** Puts tacks and runs in an order the assembly allows, in place, as near as may be to the one there is. */
export function putInAssemblyOrder(plan: Ordered): void {
	plan.tacks = tacksInOrder(plan);
	plan.runs = runsInOrder(plan);
}

/**
 * After a change of the assembly: tacks and runs follow it, and a hold-down that came off before a step that is gone comes off when cold.
 * In place. @returns what was changed, in the planner's words
 */
export function followAssembly(plan: Ordered & Pick<PlanDocument, 'holdDowns'>): string[] {
	const notes: string[] = [];
	if (brokenRule(plan)) {
		putInAssemblyOrder(plan);
		notes.push('Tacks and runs follow the order of the assembly.');
	}
	const later = new Set(
		stepsOf(plan)
			.slice(1)
			.map((s) => s.id)
	);
	for (const h of plan.holdDowns) {
		const step = /^before-step:(.+)$/.exec(h.life.off)?.[1];
		if (step === undefined || later.has(step)) continue;
		h.life.off = 'when-cold';
		notes.push(`“${h.name}” comes off when cold: the step it came off before is gone.`);
	}
	return notes;
}
