/**
 * The piece built tack by tack and run by run on the condensed model. Each node pair of a seam is joined where the parts
 * then are (see `join` for what fit-up holds); the run's actions follow, pair by pair in its direction. Increments only: what
 * was joined before carries what comes after, so the order matters. Linear: no buckling, no gravity, no contact but at joining.
 */
import { dot, norm } from '../geometry/vec';
import { DenseCholesky } from '../linalg/dense';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../plan/schema';
import type { Condensed } from './condense';
import type { StageEvent, WeldEvent } from './events';
import { ACTIONS, jointDirections, WeldBook, type LoadChange, type MisfitChange } from './weldBook';

export interface Mark {
	id: string;
	/** outputs by action, then by output */
	byAction: Float64Array[];
	/** link forces and load amounts by action, for drawing the shape */
	lambda: Float64Array[];
	amounts: Float64Array[];
}

export interface Staged {
	marks: Mark[];
	/** what each run (and `tacks`, and each release) added: outputs by action */
	added: Map<string, Float64Array[]>;
	/** the same as link forces and load amounts by action */
	sources: Map<string, { lambda: Float64Array[]; amounts: Float64Array[] }>;
	/** seam index of each run */
	seamOfRun: Map<string, number>;
	/** link rows that carry at the end */
	active: number[];
}

export function stage(plan: PlanDocument, seams: SeamMesh[], c: Condensed, events: StageEvent[]): Staged {
	return new Stager(plan, seams, c).run(events);
}

class Stager {
	private active: number[] = [];
	private planned: number[] = [];
	private chol!: DenseCholesky;
	private readonly isActive: Uint8Array;
	private readonly lambda: Float64Array[];
	private readonly amounts: Float64Array[];
	private readonly y: Float64Array[];
	/** gathered since the last flush */
	private readonly newLambda: Float64Array[];
	private readonly newAmounts: Float64Array[];
	/** place of each active row in the joining order */
	private readonly place: Int32Array;
	private readonly book: WeldBook;
	private pending: { loads: LoadChange[]; misfits: MisfitChange[] } = { loads: [], misfits: [] };

	constructor(
		private readonly plan: PlanDocument,
		private readonly seams: SeamMesh[],
		private readonly c: Condensed
	) {
		this.isActive = new Uint8Array(c.rowCount);
		this.lambda = ACTIONS.map(() => new Float64Array(c.rowCount));
		this.amounts = ACTIONS.map(() => new Float64Array(c.loads.length));
		this.y = ACTIONS.map(() => new Float64Array(c.outCount));
		this.newLambda = ACTIONS.map(() => new Float64Array(c.rowCount));
		this.newAmounts = ACTIONS.map(() => new Float64Array(c.loads.length));
		this.place = new Int32Array(c.rowCount);
		this.book = new WeldBook(plan, seams, c);
	}

	run(events: StageEvent[]): Staged {
		const out: Staged = {
			marks: [],
			added: new Map(),
			sources: new Map(),
			seamOfRun: new Map(this.plan.runs.map((r) => [r.id, this.seams.findIndex((s) => s.joint.id === r.joint)])),
			active: []
		};
		this.refactor(events, 0);
		for (let i = 0; i < events.length; i++) {
			const e = events[i];
			if (e.type === 'on') this.activate(e.rows);
			else if (e.type === 'mark') out.marks.push(this.mark(e.id));
			else if (e.type === 'weld') {
				this.weld(e);
				const next = events[i + 1];
				if (!(next?.type === 'weld' && next.owner === e.owner)) {
					this.settle();
					this.flush(out, e.owner);
				}
			} else {
				// all that lets go at this moment lets go together
				const group = [e];
				for (let next = events[i + 1]; next?.type === 'off'; next = events[i + 1]) {
					group.push(next);
					i++;
				}
				this.release(
					group.flatMap((g) => g.rows),
					events,
					i + 1
				);
				this.flush(out, e.owner);
			}
		}
		out.active = [...this.active];
		return out;
	}

	/** Outputs of what has gathered since the last flush, booked to its owner. */
	private flush({ added, sources }: Staged, owner: string) {
		const { c } = this;
		const nl = c.loads.length;
		let into = added.get(owner);
		if (!into) added.set(owner, (into = ACTIONS.map(() => new Float64Array(c.outCount))));
		let source = sources.get(owner);
		if (!source)
			sources.set(owner, (source = { lambda: ACTIONS.map(() => new Float64Array(c.rowCount)), amounts: ACTIONS.map(() => new Float64Array(nl)) }));
		for (let action = 0; action < ACTIONS.length; action++) {
			const lambda = this.newLambda[action];
			const rows: number[] = [];
			for (let r = 0; r < lambda.length; r++) if (lambda[r] !== 0) rows.push(r);
			const amounts = this.newAmounts[action];
			const loads: number[] = [];
			for (let l = 0; l < amounts.length; l++) if (amounts[l] !== 0) loads.push(l);
			if (!rows.length && !loads.length) continue;
			const target = into[action];
			const total = this.y[action];
			const { outRow, outLoad, rowCount, outCount } = c;
			for (let o = 0; o < outCount; o++) {
				let s = 0;
				let t = 0;
				const first = o * rowCount;
				let r = 0;
				for (; r + 1 < rowCount; r += 2) {
					s -= outRow[first + r] * lambda[r];
					t -= outRow[first + r + 1] * lambda[r + 1];
				}
				if (r < rowCount) s -= outRow[first + r] * lambda[r];
				for (const l of loads) s += outLoad[o * nl + l] * amounts[l];
				target[o] += s + t;
				total[o] += s + t;
			}
			for (const r of rows) {
				this.lambda[action][r] += lambda[r];
				source.lambda[action][r] += lambda[r];
			}
			for (const l of loads) {
				this.amounts[action][l] += amounts[l];
				source.amounts[action][l] += amounts[l];
			}
			lambda.fill(0);
			amounts.fill(0);
		}
	}

	private rowsOf(seam: number, pair: number) {
		const first = this.c.pairRow[seam][pair];
		// both sides one node (a seam that meets itself): nothing to join
		return this.seams[seam].a[pair] === this.seams[seam].b[pair] ? [] : [first, first + 1, first + 2, first + 3, first + 4, first + 5];
	}

	/** Factor of everything active now and everything that will join before the next release, in joining order. */
	private refactor(events: StageEvent[], from: number) {
		const order = [...this.active];
		const taken = new Set(order);
		for (let i = from; i < events.length && events[i].type !== 'off'; i++) {
			const e = events[i];
			const rows = e.type === 'on' ? e.rows : e.type === 'weld' ? this.rowsOf(e.seam, e.pair) : [];
			for (const r of rows)
				if (!taken.has(r)) {
					taken.add(r);
					order.push(r);
				}
		}
		const n = order.length;
		const a = new Float64Array(n * n);
		const { flexibility, compliance, rowCount } = this.c;
		for (let i = 0; i < n; i++)
			for (let j = 0; j <= i; j++) a[i * n + j] = flexibility[order[i] * rowCount + order[j]] + (i === j ? compliance[order[i]] : 0);
		this.chol = new DenseCholesky(a, n, this.c.model.factor.kernel);
		this.planned = order;
	}

	private activate(rows: number[]) {
		for (const r of rows) {
			if (this.isActive[r]) continue;
			if (this.planned[this.active.length] !== r) throw new Error('Staging lost its joining order'); // a fault of the program, not of the plan
			this.isActive[r] = 1;
			this.place[r] = this.active.push(r) - 1;
		}
	}

	/**
	 * Joins a node pair where the parts then are, but for two things that fit-up sees to: edges that touch do not pass
	 * through each other (what has closed beyond the gap is pushed back), and the sheets are held to their fit-up angle while
	 * they are joined. So the angle and shrinkage given for a seam stay totals, however many tacks it takes.
	 */
	private join(k: number, i: number): MisfitChange[] {
		const rows = this.rowsOf(k, i);
		if (!rows.length || this.isActive[rows[0]]) return [];
		const before = this.active.length;
		const move = ACTIONS.map((_, action) => rows.map((r) => this.relative(action, r, before)));
		this.activate(rows);
		const { shrink, turn } = jointDirections(this.plan, this.seams[k], i);
		const length = norm(shrink);
		const closing = ACTIONS.map((_, a) => (length > 1e-9 ? dot([move[a][0], move[a][1], move[a][2]], shrink) / length : 0));
		const total = closing.reduce((s, v) => s + v, 0);
		const beyond = total - this.seams[k].joint.gapMm;
		const share = beyond > 0 && total > 0 ? beyond / total : 0;
		const misfits: MisfitChange[] = [];
		for (let a = 0; a < ACTIONS.length; a++) {
			const turned = dot([move[a][3], move[a][4], move[a][5]], turn);
			for (let d = 0; d < 3; d++) {
				if (share > 0) misfits.push({ action: a, row: rows[d], amount: (-share * closing[a] * shrink[d]) / length });
				misfits.push({ action: a, row: rows[3 + d], amount: -turned * turn[d] });
			}
		}
		return misfits;
	}

	/** Relative displacement of a link row so far, from one action. */
	private relative(action: number, row: number, count: number): number {
		const { c } = this;
		const nl = c.loads.length;
		let s = 0;
		for (let l = 0; l < nl; l++) {
			const amount = this.amounts[action][l] + this.newAmounts[action][l];
			if (amount !== 0) s += c.rowLoad[row * nl + l] * amount;
		}
		for (let i = 0; i < count; i++) {
			const r = this.active[i];
			s -= c.flexibility[row * c.rowCount + r] * (this.lambda[action][r] + this.newLambda[action][r]);
		}
		return s;
	}

	/** Applies changes of load and misfit, by action, to what is joined now. */
	private apply(loads: readonly LoadChange[], misfits: readonly MisfitChange[]) {
		const { c } = this;
		const m = this.active.length;
		const nl = c.loads.length;
		const sides = new Map<number, Float64Array>();
		const side = (action: number) => {
			let g = sides.get(action);
			if (!g) sides.set(action, (g = new Float64Array(m)));
			return g;
		};
		for (const l of loads) {
			if (l.amount === 0) continue;
			const g = side(l.action);
			for (let i = 0; i < m; i++) g[i] += c.rowLoad[this.active[i] * nl + l.load] * l.amount;
			this.newAmounts[l.action][l.load] += l.amount;
		}
		for (const x of misfits) if (x.amount !== 0) side(x.action)[this.place[x.row]] -= x.amount;
		this.advance(sides, m);
	}

	/** Solves for the link forces that answer each action's side, four at a time, and gathers them. */
	private advance(sides: ReadonlyMap<number, Float64Array>, m: number) {
		const list = [...sides];
		for (let k = 0; k < list.length; k += 4) {
			const group = list.slice(k, k + 4);
			const b = new Float64Array(4 * m);
			group.forEach(([, g], q) => {
				for (let i = 0; i < m; i++) b[4 * i + q] = g[i];
			});
			this.chol.solveLeading4(b, m);
			group.forEach(([action], q) => {
				const gathered = this.newLambda[action];
				for (let i = 0; i < m; i++) gathered[this.active[i]] += b[4 * i + q];
			});
		}
	}

	/** Gathers what one pair's part of a run adds; what has gathered is settled before anything else joins, and once for all where nothing does. */
	private weld(e: WeldEvent) {
		const [first] = this.rowsOf(e.seam, e.pair);
		if (first !== undefined && !this.isActive[first]) {
			this.settle();
			this.pending.misfits.push(...this.join(e.seam, e.pair));
		}
		const { loads, misfits } = this.book.increments(e);
		this.pending.loads.push(...loads);
		this.pending.misfits.push(...misfits);
	}

	private settle() {
		const { loads, misfits } = this.pending;
		if (!loads.length && !misfits.length) return;
		this.pending = { loads: [], misfits: [] };
		this.apply(loads, misfits);
	}

	private release(rows: number[], events: StageEvent[], from: number) {
		const { c } = this;
		const going = rows.filter((r) => this.isActive[r]);
		for (const r of going) this.isActive[r] = 0;
		this.active = this.active.filter((r) => this.isActive[r]);
		this.active.forEach((r, i) => (this.place[r] = i));
		this.refactor(events, from);
		const m = this.active.length;
		const sides = new Map<number, Float64Array>();
		for (let action = 0; action < ACTIONS.length; action++) {
			const force = going.map((r) => this.lambda[action][r]);
			if (force.every((f) => f === 0)) continue;
			// the released rows' forces go to zero; what stays takes up the change
			const g = new Float64Array(m);
			for (let i = 0; i < m; i++) for (let q = 0; q < going.length; q++) g[i] += c.flexibility[this.active[i] * c.rowCount + going[q]] * force[q];
			sides.set(action, g);
			going.forEach((r, q) => (this.newLambda[action][r] -= force[q]));
		}
		this.advance(sides, m);
	}

	private mark(id: string): Mark {
		return { id, byAction: this.y.map((v) => v.slice()), lambda: this.lambda.map((v) => v.slice()), amounts: this.amounts.map((v) => v.slice()) };
	}
}

/** Displacement of every node at some marks, six freedoms each: one sparse solve a mark. @param scales multiplier of each action */
export function shapesAt(marks: readonly Mark[], c: Condensed, scales: readonly number[]): Float64Array[] {
	const out: Float64Array[] = [];
	const w = 8;
	const sum = (by: readonly Float64Array[], i: number) => by.reduce((s, v, action) => s + scales[action] * v[i], 0);
	for (let m0 = 0; m0 < marks.length; m0 += w) {
		const part = marks.slice(m0, m0 + w);
		const count = part.length;
		const b = new Float64Array(c.model.freedoms * count);
		part.forEach((mark, k) => {
			c.loads.forEach((load, l) => {
				const amount = sum(mark.amounts, l);
				if (amount !== 0) load.forces.at.forEach((f, i) => (b[f * count + k] += amount * load.forces.v[i]));
			});
			c.rows.forEach((row, r) => {
				const force = sum(mark.lambda, r);
				if (force !== 0) row.at.forEach((f, i) => (b[f * count + k] -= force * row.v[i]));
			});
		});
		const x = c.model.factor.solveMany(b, count);
		for (let k = 0; k < count; k++) out.push(Float64Array.from({ length: c.model.freedoms }, (_, f) => x[f * count + k]));
	}
	return out;
}
