/**
 * The work in the order it is done: parts come on step by step of the assembly; what belongs to a step is tacked, then welded, before
 * the next parts come on. Forecast, bench, sheets and search read this one list. Words for the life of a hold-down: `start`,
 * `after-tacks` (of the step at which what it holds has come on), `before-run:ID`, `after-run:ID`, `before-step:ID`, `when-cold`, `stays`.
 */
import type { AnyHoldDown, AssemblyStep, PlanDocument, Run, Tack } from '../document/schema';
import { Assembly } from './assembly';

export type Act =
	| { kind: 'parts'; step: AssemblyStep; index: number }
	| { kind: 'on' | 'off'; holdDown: AnyHoldDown }
	| { kind: 'tack'; tack: Tack; step: number }
	| { kind: 'tacked'; step: AssemblyStep; index: number }
	| { kind: 'run'; run: Run; index: number }
	/** the last run of a step lies: what the next one shuts in is looked at now */
	| { kind: 'welded'; step: AssemblyStep; index: number }
	| { kind: 'cold' | 'unclamped' };

type Planned = Pick<PlanDocument, 'parts' | 'joints' | 'fitUp' | 'holdDowns' | 'tacks' | 'runs'>;

/** @returns id of the mark at which a step's tacks are on; the first step's is the plain word */
export const tackedMark = (step: AssemblyStep, index: number) => (index === 0 ? 'as-tacked' : `as-tacked:${step.id}`);

/**
 * Moments are numbered as they come; hold-downs change at them. A step whose runs were put after a later step's keeps its place before
 * the first run that needs its parts, so that any order of runs has a sequence (access says what is wrong with it).
 */
export class Timeline {
	readonly assembly: Assembly;
	readonly cold: number;
	readonly never: number;
	/** by step: its parts come on, its tacks are on */
	private readonly startOf: number[] = [];
	private readonly tackedOf: number[] = [];
	/** by run */
	private readonly before: number[] = [];
	private readonly after: number[] = [];
	private readonly runAt: ReadonlyMap<string, number>;
	/** by step: the run before which its parts come on */
	private readonly gap: number[];

	constructor(private readonly plan: Planned) {
		this.assembly = new Assembly(plan);
		const { steps } = this.assembly;
		this.runAt = new Map(plan.runs.map((r, i) => [r.id, i]));
		const stepOf = plan.runs.map((r) => this.assembly.ofJoint(r.joint));
		this.gap = steps.map((_, s) => {
			if (s === 0) return 0;
			const first = stepOf.findIndex((x) => x >= s);
			return first < 0 ? plan.runs.length : first;
		});
		let at = -1;
		for (let i = 0; i <= plan.runs.length; i++) {
			steps.forEach((_, s) => {
				if (this.gap[s] !== i) return;
				this.startOf[s] = ++at;
				this.tackedOf[s] = ++at;
			});
			if (i === plan.runs.length) break;
			this.before[i] = at;
			this.after[i] = ++at;
		}
		this.cold = at + 1;
		this.never = at + 2;
	}

	/** @param step of what is asked about, for the words that go by it. @returns the moment, or undefined where the word or its run or step is unknown */
	momentOf(word: string, step = 0): number | undefined {
		switch (word) {
			case 'start':
				return this.startOf[step];
			case 'after-tacks':
				return this.tackedOf[step];
			case 'when-cold':
				return this.cold;
			case 'stays':
				return this.never;
		}
		const found = /^(before-run|after-run|before-step):(.+)$/.exec(word);
		if (!found) return undefined;
		if (found[1] === 'before-step') {
			const k = this.assembly.steps.findIndex((s) => s.id === found[2]);
			return k > 0 ? this.startOf[k] - 1 : undefined;
		}
		const run = this.runAt.get(found[2]);
		return run === undefined ? undefined : (found[1] === 'before-run' ? this.before : this.after)[run];
	}

	/** the moment before the first run */
	get firstRun(): number {
		return this.before[0] ?? this.cold;
	}

	/** the moment at which a step's parts come on */
	startOfStep(step: number): number {
		return this.startOf[step];
	}

	onOf(h: AnyHoldDown): number | undefined {
		return this.momentOf(h.life.on, this.assembly.ofHoldDown(h));
	}
	offOf(h: AnyHoldDown): number | undefined {
		return this.momentOf(h.life.off, this.assembly.ofHoldDown(h));
	}

	private isOn(h: AnyHoldDown, moment: number): boolean {
		const [on, off] = [this.onOf(h), this.offOf(h)];
		return on !== undefined && off !== undefined && on <= moment && off > moment;
	}
	/** On during run `index` (0-based)? */
	isOnDuringRun(h: AnyHoldDown, index: number): boolean {
		return this.isOn(h, this.before[index]);
	}
	/** On while the tacks of a seam are set? */
	isOnDuringTacks(h: AnyHoldDown, joint: string): boolean {
		return this.isOn(h, this.startOf[this.assembly.ofJoint(joint)]);
	}

	/** Everything that is done, in order. */
	acts(): Act[] {
		const { plan } = this;
		const { steps } = this.assembly;
		const holds = plan.holdDowns.map((holdDown) => ({ holdDown, on: this.onOf(holdDown), off: this.offOf(holdDown) }));
		const out: Act[] = [];
		const change = (moment: number) => {
			// what lies under goes on before what presses on it, and comes off after it
			const isUnder = (h: AnyHoldDown) => h.kind === 'bar' && !h.offsetMm;
			const [off, on] = [holds.filter((h) => h.off === moment), holds.filter((h) => h.on === moment)].map((list) => list.map((h) => h.holdDown));
			const upper = (list: AnyHoldDown[]) => list.filter((h) => !isUnder(h));
			for (const holdDown of [...upper(off), ...off.filter(isUnder)]) out.push({ kind: 'off', holdDown });
			for (const holdDown of [...on.filter(isUnder), ...upper(on)]) out.push({ kind: 'on', holdDown });
		};
		const finished = new Set<number>();
		for (let i = 0; i <= plan.runs.length; i++) {
			steps.forEach((step, s) => {
				if (this.gap[s] !== i) return;
				if (s > 0 && !finished.has(s - 1)) {
					finished.add(s - 1);
					out.push({ kind: 'welded', step: steps[s - 1], index: s - 1 });
				}
				out.push({ kind: 'parts', step, index: s });
				change(this.startOf[s]);
				for (const tack of plan.tacks) if (this.assembly.ofJoint(tack.joint) === s) out.push({ kind: 'tack', tack, step: s });
				out.push({ kind: 'tacked', step, index: s });
				change(this.tackedOf[s]);
			});
			if (i === plan.runs.length) break;
			out.push({ kind: 'run', run: plan.runs[i], index: i });
			change(this.after[i]);
		}
		out.push({ kind: 'welded', step: steps[steps.length - 1], index: steps.length - 1 }, { kind: 'cold' });
		change(this.cold);
		out.push({ kind: 'unclamped' });
		return out;
	}
}
