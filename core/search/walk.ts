/** An order walked from its beginning on the condensed piece: each run's columns, given the set laid before it (docs/theory/search.md). */
import { axpy, growingFactor, type GrowingFactor } from '../linalg/growing';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { Refusal } from '../refusal/refusal';

/** A run laid one way or the other. */
export interface Laying {
	/** index into the model's runs */
	run: number;
	/** true where it is laid against the plan's own direction */
	reversed: boolean;
}

/** A place that is not tacked: joined by the run that reaches it first. */
export interface OpenPlace {
	/** first of its six rows among the open rows */
	first: number;
	gapMm: number;
	shrink: number[];
	turn: number[];
	/** misfit that joining it sets, by row of the six */
	preset: number[];
	/** the part laid on by several seams that it belongs to, or -1: held to the angle it lies at when the first of its places joins */
	laidOn: number;
	/** which way it is pressed on where it joins, if it is */
	press?: readonly number[];
}

export interface EventInput {
	/** index of the open place it joins, or -1 */
	open: number;
	/** index into the inputs: with the force, and without */
	force: number;
	rest: number;
}

/** What one part of a run adds to the observations. */
interface Column {
	open: number;
	/** answers to a unit misfit in closing and in turning at the place it joins */
	closing?: Float64Array;
	turning?: Float64Array;
	/** to a unit along which it is pressed on */
	pressing?: Float64Array;
	force?: Float64Array;
	rest?: Float64Array;
}
export type RunColumns = Column[];

/** What a walk reads of its model; rows are the open ones. */
export interface WalkModel {
	openRows: number;
	/** length of an observation vector */
	observed: number;
	/** rows x rows */
	G: Float64Array;
	/** rows x observed */
	answer: Float64Array;
	/** by input: on the rows, and on the observations */
	inputRows: readonly Float64Array[];
	inputSeen: readonly Float64Array[];
	open: readonly OpenPlace[];
	/** by run */
	events: readonly (readonly EventInput[])[];
	/** tacks of later steps of the assembly, step by step: they go with the first run of their step, whichever that is */
	laterTacks: readonly (readonly EventInput[])[];
	/** by run: how many of them must be on before it */
	tacksBefore: readonly number[];
}

/** The open rows joined so far, in their order, with the observations' answers carried along. */
export class Walk {
	private readonly factor: GrowingFactor;
	private readonly order: Int32Array;
	private readonly isJoined: Uint8Array;
	/** marks at which the tacks of later steps were set, in their order */
	private readonly tackedAt: number[] = [];

	/** @param kernel compiled kernels of the host, if it has them */
	constructor(
		private readonly m: WalkModel,
		kernel?: KernelFactory
	) {
		this.factor = growingFactor(m.openRows, m.observed, kernel);
		this.order = new Int32Array(m.openRows);
		this.isJoined = new Uint8Array(m.open.length);
	}

	/** How much has been joined: pass to `back`. */
	get mark() {
		return this.factor.count;
	}
	/** Forgets what was joined after a mark; 0 begins anew. */
	back(mark: number) {
		for (let i = mark; i < this.factor.count; i += 6) this.isJoined[this.order[i] / 6] = 0;
		this.factor.back(mark);
		while (this.tackedAt.length && this.tackedAt[this.tackedAt.length - 1] >= mark) this.tackedAt.pop();
	}

	/** Lays a run after all that have been appended. @returns its columns */
	append({ run, reversed }: Laying): RunColumns {
		const out: RunColumns = [];
		while (this.tackedAt.length < this.m.tacksBefore[run]) {
			const step = this.tackedAt.push(this.mark) - 1;
			out.push(...this.put(this.m.laterTacks[step], false));
		}
		out.push(...this.put(this.m.events[run], reversed));
		return out;
	}

	private put(events: readonly EventInput[], reversed: boolean): RunColumns {
		const out: RunColumns = [];
		let force: number[] = [];
		let rest: number[] = [];
		let current: Column = { open: -1 };
		const flush = () => {
			const parts = [force, rest].filter((list) => list.length);
			const seen = this.seen(parts);
			if (force.length) current.force = seen[0];
			if (rest.length) {
				const last = seen[seen.length - 1];
				if (current.rest) axpy(last, current.rest, 1);
				current.rest = last;
			}
			if (current.open >= 0 || current.force || current.rest) out.push(current);
			force = [];
			rest = [];
			current = { open: -1 };
		};
		for (let i = 0; i < events.length; i++) {
			const e = events[reversed ? events.length - 1 - i : i];
			if (e.open >= 0 && !this.isJoined[e.open]) {
				flush();
				current = this.join(e.open);
			}
			if (e.force >= 0) force.push(e.force);
			if (e.rest >= 0) rest.push(e.rest);
		}
		flush();
		return out;
	}

	private join(place: number): Column {
		const p = this.m.open[place];
		const { openRows: R, observed } = this.m;
		const n = this.factor.count;
		for (let d = 0; d < 6; d++) this.order[n + d] = p.first + d;
		const rows = new Float64Array(6 * (n + 6));
		for (let d = 0; d < 6; d++) for (let j = 0; j < n + 6; j++) rows[d * (n + 6) + j] = this.m.G[(p.first + d) * R + this.order[j]];
		try {
			this.factor.append(rows, this.m.answer.subarray(p.first * observed, (p.first + 6) * observed));
		} catch (e) {
			if (!(e instanceof RangeError)) throw e;
			throw new Refusal('A place that a run joins is held twice over: two seams share it. Move one of them, or set a finer mesh.', {}, { cause: e });
		}
		this.isJoined[place] = 1;
		// a misfit v on the six rows drives them by -v
		const closing = this.factor.fromLast([...p.shrink.map((v) => -v), 0, 0, 0]);
		const turning = this.factor.fromLast([0, 0, 0, ...p.turn.map((v) => -v)]);
		const pressing = p.press && this.factor.fromLast([...p.press.map((v) => -v), 0, 0, 0]);
		return {
			open: place,
			closing,
			turning,
			...(pressing ? { pressing } : {}),
			rest: p.preset.some((v) => v !== 0) ? this.factor.fromLast(p.preset.map((v) => -v)) : undefined
		};
	}

	/** Observations for lists of inputs, with what is joined now. */
	private seen(lists: readonly (readonly number[])[]): Float64Array[] {
		if (!lists.length) return [];
		const { count } = this.factor;
		const drives = lists.map((list) => {
			const g = new Float64Array(count);
			for (const x of list) for (let i = 0; i < count; i++) g[i] += this.m.inputRows[x][this.order[i]];
			return g;
		});
		return this.factor.from(drives).map((out, k) => {
			for (const x of lists[k]) axpy(out, this.m.inputSeen[x], 1);
			return out;
		});
	}
}
