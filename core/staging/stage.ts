/**
 * The piece built tack by tack and run by run on the condensed model. Each node pair of a seam is joined where the parts
 * then are (see `join` for what fit-up holds); the run's actions follow, pair by pair in its direction. Increments only: what
 * was joined before carries what comes after, so the order matters. Linear: no buckling, no gravity, no contact but at joining.
 */
import { dot, norm, type Vec3 } from '../geometry/vec';
import { timesTransposed, type DenseCholesky } from '../linalg/dense';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../document/schema';
import type { Condensed } from './condense';
import { pressedAlong } from './carried';
import type { StageEvent, WeldEvent } from './events';
import { JoinFactors, joiningOrder, pairRows } from './restraint';
import { ACTIONS, jointDirections, SPREADS, WeldBook, type LoadChange, type MisfitChange } from './weldBook';

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

/** @param factors of the same condensed model, where others ask for them too */
export function stage(plan: PlanDocument, seams: SeamMesh[], c: Condensed, events: StageEvent[], factors = new JoinFactors(c)): Staged {
	return new Stager(plan, seams, c, factors).run(events);
}

/** What gathered for one owner between two flushes, from one action. */
interface Gathered {
	owner: string;
	action: number;
	lambda: Float64Array;
	amounts: Float64Array;
}

/**
 * With L the factor of the rows in joining order and z = L^T lambda, a place that joins costs no solution: what its rows have
 * moved by is their own rows of L times z, and a misfit there changes nothing before them. So each run takes one forward
 * sweep for what it brings, and one backward for the forces it leaves.
 */
class Stager {
	private active: number[] = [];
	private planned: number[] = [];
	private chol!: DenseCholesky;
	private readonly isActive: Uint8Array;
	/** up to the last flush, by action */
	private readonly lambda: Float64Array[];
	/** L^T lambda in joining order, by action: all of it, and what came since the last flush */
	private z: Float64Array[] = [];
	private dz: Float64Array[] = [];
	/** forces of rows let go since the last flush */
	private dropped: { action: number; row: number; force: number }[] = [];
	private readonly amounts: Float64Array[];
	private readonly newAmounts: Float64Array[];
	/** place of each active row in the joining order */
	private readonly place: Int32Array;
	private readonly book: WeldBook;
	/** by seam of a part that is laid on: how its pairs lie, by action, when the part is first joined */
	private readonly laid = new Map<number, Map<number, Lies[]>>();
	private pending: { loads: LoadChange[]; misfits: MisfitChange[] } = { loads: [], misfits: [] };
	private readonly gathered: Gathered[] = [];
	private readonly marks: { mark: Mark; after: number }[] = [];

	constructor(
		private readonly plan: PlanDocument,
		private readonly seams: SeamMesh[],
		private readonly c: Condensed,
		private readonly factors: JoinFactors
	) {
		this.isActive = new Uint8Array(c.rowCount);
		this.lambda = ACTIONS.map(() => new Float64Array(c.rowCount));
		this.amounts = ACTIONS.map(() => new Float64Array(c.loads.length));
		this.newAmounts = ACTIONS.map(() => new Float64Array(c.loads.length));
		this.place = new Int32Array(c.rowCount);
		this.book = new WeldBook(plan, seams, c);
	}

	run(events: StageEvent[]): Staged {
		this.refactor(events, 0);
		for (let i = 0; i < events.length; i++) {
			const e = events[i];
			if (e.type === 'on') this.activate(e.rows);
			else if (e.type === 'mark') this.mark(e.id);
			else if (e.type === 'weld') {
				this.weld(e);
				const next = events[i + 1];
				if (!(next?.type === 'weld' && next.owner === e.owner)) {
					this.settle();
					this.flush(e.owner);
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
				this.flush(e.owner);
			}
		}
		return this.finish();
	}

	/** Turns what has come since the last flush into link forces, booked to its owner. */
	private flush(owner: string) {
		const m = this.active.length;
		const changed = ACTIONS.flatMap((_, action) =>
			this.dz[action].some((v) => v !== 0) || this.newAmounts[action].some((v) => v !== 0) || this.dropped.some((d) => d.action === action)
				? [action]
				: []
		);
		const forces = inFours(changed, m, (action) => this.dz[action]);
		for (const b of forces) this.chol.backward4(b, m);
		changed.forEach((action, k) => {
			const lambda = new Float64Array(this.c.rowCount);
			const b = forces[k >> 2];
			for (let i = 0; i < m; i++) lambda[this.active[i]] = b[4 * i + (k & 3)];
			for (const d of this.dropped) if (d.action === action) lambda[d.row] -= d.force;
			for (let r = 0; r < lambda.length; r++) this.lambda[action][r] += lambda[r];
			this.gathered.push({ owner, action, lambda, amounts: this.newAmounts[action].slice() });
			this.newAmounts[action].fill(0);
			this.dz[action].fill(0);
		});
		this.dropped = [];
	}

	/** Outputs of everything gathered, in one product; summed to each mark. */
	private finish(): Staged {
		const { c } = this;
		const { rowCount, outCount } = c;
		const none = () => ACTIONS.map(() => new Float64Array(outCount));
		const added: Staged['added'] = new Map();
		const sources: Staged['sources'] = new Map();
		const byRow = timesTransposed(
			c.outRow,
			this.gathered.map((g) => g.lambda),
			rowCount,
			c.model.factor.kernel
		);
		const count = this.gathered.length;
		const nl = c.loads.length;
		const total = none();
		let next = 0;
		const take = (until: number) => {
			for (; next < until; next++) {
				const g = this.gathered[next];
				let into = added.get(g.owner);
				if (!into) added.set(g.owner, (into = none()));
				let source = sources.get(g.owner);
				if (!source)
					sources.set(
						g.owner,
						(source = { lambda: ACTIONS.map(() => new Float64Array(rowCount)), amounts: ACTIONS.map(() => new Float64Array(nl)) })
					);
				for (let r = 0; r < rowCount; r++) source.lambda[g.action][r] += g.lambda[r];
				const loads: number[] = [];
				for (let l = 0; l < nl; l++)
					if (g.amounts[l] !== 0) {
						loads.push(l);
						source.amounts[g.action][l] += g.amounts[l];
					}
				for (let o = 0; o < outCount; o++) {
					let s = -byRow[o * count + next];
					for (const l of loads) s += c.outLoad[o * nl + l] * g.amounts[l];
					into[g.action][o] += s;
					total[g.action][o] += s;
				}
			}
		};
		for (const { mark, after } of this.marks) {
			take(after);
			mark.byAction = total.map((v) => v.slice());
		}
		take(count);
		return {
			marks: this.marks.map((m) => m.mark),
			added,
			sources,
			seamOfRun: new Map(this.plan.runs.map((r) => [r.id, this.seams.findIndex((s) => s.joint.id === r.joint)])),
			active: [...this.active]
		};
	}

	private rowsOf(seam: number, pair: number) {
		return pairRows(this.seams, this.c, seam, pair);
	}

	/** Factor of everything active now and everything that will join before the next release, in joining order. */
	private refactor(events: StageEvent[], from: number) {
		const order = joiningOrder(this.active, events, from, (seam, pair) => this.rowsOf(seam, pair));
		const n = order.length;
		this.chol = this.factors.of(order);
		this.planned = order;
		this.dz = ACTIONS.map(() => new Float64Array(n));
		this.z = ACTIONS.map(() => new Float64Array(n));
		this.active.forEach((row, i) => {
			const L = this.chol.row(i);
			this.lambda.forEach((lambda, action) => {
				const force = lambda[row];
				if (force !== 0) for (let j = 0; j <= i; j++) this.z[action][j] += force * L[j];
			});
		});
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
	 * they are joined (a part laid on by several seams: to the angle it then lies at). So the angle and shrinkage given for a seam stay
	 * totals, however many tacks it takes.
	 */
	private join(k: number, i: number): MisfitChange[] {
		const rows = this.rowsOf(k, i);
		if (!rows.length || this.isActive[rows[0]]) return [];
		const lies = this.asLaid(k, i);
		const press = pressedAlong(this.c.laidOn, this.seams, k, i);
		const before = this.active.length;
		this.activate(rows);
		const move = this.relative(rows, before);
		const { shrink, about } = jointDirections(this.plan, this.seams[k], i);
		const length = norm(shrink);
		const closing = move.map((m, a) => closingOf(m, shrink) - (lies?.[a].closing ?? 0));
		// where the pull may lie elsewhere in the thickness, or edges slide otherwise, is no part of the forecast, only of its band
		const total = closing.reduce((s, v, a) => (SPREADS.includes(a) ? s : s + v), 0);
		const beyond = total - this.seams[k].joint.gapMm;
		const share = beyond > 0 && total > 0 ? beyond / total : 0;
		const misfits: MisfitChange[] = [];
		for (let a = 0; a < ACTIONS.length; a++) {
			const turned = turnOf(move[a], about) - (lies?.[a].turned ?? 0);
			// pressed on: nothing stands open under it where it is tacked
			const lifted = press ? dot([move[a][0], move[a][1], move[a][2]], press) : 0;
			for (let d = 0; d < 3; d++) {
				if (press && lifted !== 0) misfits.push({ action: a, row: rows[d], amount: -lifted * press[d] });
				// edges that touch give a little more or less not at all
				const back = SPREADS.includes(a) ? 1 : share;
				if (share > 0) misfits.push({ action: a, row: rows[d], amount: (-back * closing[a] * shrink[d]) / length });
				misfits.push({ action: a, row: rows[3 + d], amount: -turned * about[d] });
			}
		}
		return misfits;
	}

	/** How a pair of a part that is laid on lay when the part was first joined, by action; nothing for other seams. */
	private asLaid(k: number, i: number): Lies[] | undefined {
		const part = this.c.laidOn.find((p) => p.seams.includes(k));
		if (!part) return undefined;
		if (!this.laid.has(k)) {
			const at = new Map(this.planned.map((r, p) => [r, p]));
			for (const s of part.seams) {
				const pairs = new Map<number, Lies[]>();
				this.seams[s].stations.forEach((_, q) => {
					const rows = this.rowsOf(s, q);
					if (!rows.length || this.isActive[rows[0]] || !at.has(rows[0])) return;
					const move = this.relative(rows, this.active.length, at);
					const { shrink, about } = jointDirections(this.plan, this.seams[s], q);
					pairs.set(
						q,
						move.map((m) => ({ closing: closingOf(m, shrink), turned: turnOf(m, about) }))
					);
				});
				this.laid.set(s, pairs);
			}
		}
		const known = this.laid.get(k)!;
		// a pair that joins only after something has let go: as the nearest that was asked
		const nearest = [...known.keys()].sort((p, q) => Math.abs(p - i) - Math.abs(q - i))[0];
		return known.get(i) ?? known.get(nearest);
	}

	/** Relative displacement, by action, of rows next in the joining order (or at places of it given), from all before them. */
	private relative(rows: readonly number[], before: number, at?: ReadonlyMap<number, number>): Float64Array[] {
		const { c } = this;
		const nl = c.loads.length;
		const factor = rows.map((r) => this.chol.row(at?.get(r) ?? this.place[r]));
		return ACTIONS.map((_, action) => {
			const z = this.z[action];
			const amounts = this.amounts[action];
			const out = new Float64Array(rows.length);
			for (let l = 0; l < nl; l++) if (amounts[l] !== 0) for (let q = 0; q < rows.length; q++) out[q] += c.rowLoad[rows[q] * nl + l] * amounts[l];
			for (let q = 0; q < rows.length; q++) {
				const L = factor[q];
				let s = 0;
				for (let i = 0; i < before; i++) s += L[i] * z[i];
				out[q] -= s;
			}
			return out;
		});
	}

	/** Applies changes of load and misfit, by action, to what is joined now. */
	private apply(loads: readonly LoadChange[], misfits: readonly MisfitChange[]) {
		const { c } = this;
		const m = this.active.length;
		const nl = c.loads.length;
		const sides: Side[] = ACTIONS.map(() => ({ from: m }));
		const of = (action: number, from: number) => {
			const side = sides[action];
			side.from = Math.min(side.from, from);
			return (side.g ??= new Float64Array(m));
		};
		for (const l of loads) {
			if (l.amount === 0) continue;
			const g = of(l.action, 0);
			for (let i = 0; i < m; i++) g[i] += c.rowLoad[this.active[i] * nl + l.load] * l.amount;
			this.newAmounts[l.action][l.load] += l.amount;
			this.amounts[l.action][l.load] += l.amount;
		}
		for (const x of misfits) if (x.amount !== 0) of(x.action, this.place[x.row])[this.place[x.row]] -= x.amount;
		this.advance(sides, m);
	}

	/** Takes up what drives the joined rows, by action. */
	private advance(sides: readonly Side[], m: number) {
		const driven = sides.flatMap(({ g }, action) => (g ? [action] : []));
		inFours(driven, m, (action) => sides[action].g!).forEach((b, k) => {
			const group = driven.slice(4 * k, 4 * k + 4);
			const from = Math.min(...group.map((action) => sides[action].from));
			this.chol.forward4(b, m, from);
			group.forEach((action, q) => {
				const [z, dz] = [this.z[action], this.dz[action]];
				for (let i = from; i < m; i++) {
					z[i] += b[4 * i + q];
					dz[i] += b[4 * i + q];
				}
			});
		});
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
		const sides = ACTIONS.map((_, action): Side => {
			const force = going.map((r) => this.lambda[action][r]);
			if (force.every((f) => f === 0)) return { from: m };
			// the released rows' forces go to zero; what stays takes up the change
			const g = new Float64Array(m);
			for (let i = 0; i < m; i++) for (let q = 0; q < going.length; q++) g[i] += c.flexibility[this.active[i] * c.rowCount + going[q]] * force[q];
			going.forEach((row, q) => this.dropped.push({ action, row, force: force[q] }));
			return { from: 0, g };
		});
		this.advance(sides, m);
	}

	private mark(id: string) {
		this.marks.push({
			mark: { id, byAction: [], lambda: this.lambda.map((v) => v.slice()), amounts: this.amounts.map((v) => v.slice()) },
			after: this.gathered.length
		});
	}
}

/** How far a pair has closed across its seam, mm, and turned about it, rad. */
interface Lies {
	closing: number;
	turned: number;
}
const closingOf = (move: ArrayLike<number>, shrink: Vec3): number => {
	const length = norm(shrink);
	return length > 1e-9 ? dot([move[0], move[1], move[2]], shrink) / length : 0;
};
const turnOf = (move: ArrayLike<number>, about: Vec3): number => dot([move[3], move[4], move[5]], about);

/** What drives the joined rows from one action, zero before `from`. */
interface Side {
	from: number;
	g?: Float64Array;
}

/** Columns side by side, four and four: b[4 i + c]. */
function inFours(list: readonly number[], m: number, column: (of: number) => Float64Array): Float64Array[] {
	return Array.from({ length: Math.ceil(list.length / 4) }, (_, k) => {
		const b = new Float64Array(4 * m);
		list.slice(4 * k, 4 * k + 4).forEach((of, q) => {
			const v = column(of);
			for (let i = 0; i < m; i++) b[4 * i + q] = v[i];
		});
		return b;
	});
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
