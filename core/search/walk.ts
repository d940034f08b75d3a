/** An order walked from its beginning on the condensed piece: each run's columns, given the set laid before it (docs/theory/search.md). */

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
}

/** The factor of the open rows joined so far, in their order, with the observations' answers carried along. */
export class Walk {
	private readonly L: Float64Array;
	/** by joined row: answer of the observations after all rows before it are held */
	private readonly W: Float64Array;
	private readonly order: Int32Array;
	private readonly isJoined: Uint8Array;
	private count = 0;

	constructor(private readonly m: WalkModel) {
		const { openRows: R, open } = m;
		this.L = new Float64Array(R * R);
		this.W = new Float64Array(R * m.observed);
		this.order = new Int32Array(R);
		this.isJoined = new Uint8Array(open.length);
	}

	/** How much has been joined: pass to `back`. */
	get mark() {
		return this.count;
	}
	/** Forgets what was joined after a mark. */
	back(mark: number) {
		for (let i = mark; i < this.count; i += 6) this.isJoined[this.placeAt(i)] = 0;
		this.count = mark;
	}
	private placeAt(i: number) {
		return this.order[i] / 6;
	}

	/** Lays a run after all that have been appended. @returns its columns */
	append({ run, reversed }: Laying): RunColumns {
		const out: RunColumns = [];
		const events = this.m.events[run];
		let force: number[] = [];
		let rest: number[] = [];
		let current: Column = { open: -1 };
		const flush = () => {
			if (force.length) current.force = this.seen(force);
			if (rest.length) current.rest = this.add(current.rest, this.seen(rest));
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

	private add(v: Float64Array | undefined, w: Float64Array): Float64Array {
		if (v) axpy(w, v, 1);
		return w;
	}

	private join(place: number): Column {
		const p = this.m.open[place];
		const { openRows: R, observed } = this.m;
		const from = this.count;
		for (let d = 0; d < 6; d++) {
			const row = p.first + d;
			const at = this.count;
			const Li = at * R;
			for (let j = 0; j < at; j++) {
				const Lj = j * R;
				let s = this.m.G[row * R + this.order[j]];
				for (let k = 0; k < j; k++) s -= this.L[Li + k] * this.L[Lj + k];
				this.L[Li + j] = s / this.L[Lj + j];
			}
			let s = this.m.G[row * R + row];
			for (let k = 0; k < at; k++) s -= this.L[Li + k] ** 2;
			if (!(s > 0)) throw new RangeError('A place that a run joins is held twice over: two seams share it. Move one of them, or set a finer mesh.');
			const pivot = Math.sqrt(s);
			this.L[Li + at] = pivot;
			const w = this.W.subarray(at * observed, (at + 1) * observed);
			w.set(this.m.answer.subarray(row * observed, (row + 1) * observed));
			for (let k = 0; k < at; k++) axpy(w, this.W.subarray(k * observed, (k + 1) * observed), -this.L[Li + k]);
			for (let o = 0; o < observed; o++) w[o] /= pivot;
			this.order[at] = row;
			this.count++;
		}
		this.isJoined[place] = 1;
		// a misfit v on the six rows drives them by -v
		const unit = (v: readonly number[]) => this.fromRows(from, v);
		const closing = unit([...p.shrink.map((v) => -v), 0, 0, 0]);
		const turning = unit([0, 0, 0, ...p.turn.map((v) => -v)]);
		return { open: place, closing, turning, rest: p.preset.some((v) => v !== 0) ? unit(p.preset.map((v) => -v)) : undefined };
	}

	/** Observations for a drive `g` on the last six rows. */
	private fromRows(from: number, g: readonly number[]): Float64Array {
		const { openRows: R, observed } = this.m;
		const out = new Float64Array(observed);
		const z = new Float64Array(6);
		for (let i = 0; i < 6; i++) {
			let s = g[i];
			for (let k = 0; k < i; k++) s -= this.L[(from + i) * R + from + k] * z[k];
			z[i] = s / this.L[(from + i) * R + from + i];
			axpy(out, this.W.subarray((from + i) * observed, (from + i + 1) * observed), -z[i]);
		}
		return out;
	}

	/** Observations for inputs, with what is joined now. */
	private seen(list: readonly number[]): Float64Array {
		const { openRows: R, observed } = this.m;
		const out = new Float64Array(observed);
		for (const x of list) axpy(out, this.m.inputSeen[x], 1);
		const count = this.count;
		const z = new Float64Array(count);
		for (let i = 0; i < count; i++) {
			let s = 0;
			for (const x of list) s += this.m.inputRows[x][this.order[i]];
			for (let k = 0; k < i; k++) s -= this.L[i * R + k] * z[k];
			z[i] = s / this.L[i * R + i];
			if (z[i] !== 0) axpy(out, this.W.subarray(i * observed, (i + 1) * observed), -z[i]);
		}
		return out;
	}
}

export function axpy(y: Float64Array, x: Float64Array, f: number) {
	const n = y.length;
	for (let i = 0; i < n; i++) y[i] += f * x[i];
}
