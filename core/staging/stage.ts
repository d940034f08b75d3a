/**
 * The piece built tack by tack and run by run on the condensed model. Each node pair of a seam is joined where the parts
 * then are (see `join` for what fit-up holds); the run's actions follow, pair by pair in its direction. Increments only: what
 * was joined before carries what comes after, so the order matters. Linear: no buckling, no gravity, no contact but at joining.
 */
import { add, cross, dot, norm, scale, type Vec3 } from '../geometry/vec';
import { DenseCholesky } from '../linalg/dense';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../plan/schema';
import { momentOf, momentsOf } from '../plan/steps';
import { nearestPair, shareOfA, type Condensed } from './condense';

/** Kinds of action, kept apart so that bands and learning can scale each: see docs/theory/staging.md. */
export const ACTIONS = ['force', 'shrinkage', 'angle', 'eccentricity', 'preset', 'given'] as const;
const FORCE = 0;
const SHRINKAGE = 1;
const ANGLE = 2;
const ECCENTRIC = 3;
const PRESET = 4;
/** values given for a joint: no factor of the shop's applies to them */
const GIVEN = 5;

/** What one seam's metal does at a place while it is welded: from weldResponse, scaled by the shop's factors. */
export interface Actions {
	tendonForceN: number;
	transverseShrinkageMm: number;
	angularChangeRad: number;
	eccentricityMm: number;
	/** which of the values were given with the joint, and so are not scaled */
	given: { force: boolean; shrinkage: boolean; angle: boolean };
}

/** A tack pulls with this share of what its run would, until the run remelts it (own estimate). */
const TACK_SHARE = 0.3;

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

type Event =
	| { type: 'on'; rows: number[] }
	| { type: 'off'; rows: number[]; owner: string }
	| { type: 'weld'; seam: number; pair: number; from: number; to: number; owner: string; actions: Actions; tack: boolean; pass: number }
	| { type: 'mark'; id: string };

/** @param actionsAt what a seam's metal does at a station during run `index` (-1: tacks) */
export function stage(
	plan: PlanDocument,
	seams: SeamMesh[],
	c: Condensed,
	actionsAt: (seam: number, station: number, runIndex: number) => Actions
): Staged {
	return new Stager(plan, seams, c).run(eventsOf(plan, seams, c, actionsAt));
}

function eventsOf(
	plan: PlanDocument,
	seams: SeamMesh[],
	c: Condensed,
	actionsAt: (seam: number, station: number, runIndex: number) => Actions
): Event[] {
	const events: Event[] = [];
	const m = momentsOf(plan);
	const holds = plan.holdDowns
		.filter((h) => c.holdRows.has(h.id))
		.map((h) => ({ id: h.id, rows: c.holdRows.get(h.id)!, on: momentOf(h.life.on, plan)!, off: momentOf(h.life.off, plan)! }));
	const change = (moment: number) => {
		for (const h of holds) if (h.off === moment) events.push({ type: 'off', rows: h.rows, owner: `release:${h.id}` });
		for (const h of holds) if (h.on === moment) events.push({ type: 'on', rows: h.rows });
	};
	change(m.start);
	for (const t of plan.tacks) {
		const seam = seams.findIndex((s) => s.joint.id === t.joint);
		const pair = nearestPair(seams[seam], t.stationMm);
		events.push({
			type: 'weld',
			seam,
			pair,
			from: t.stationMm - t.lengthMm / 2,
			to: t.stationMm + t.lengthMm / 2,
			owner: 'tacks',
			actions: actionsAt(seam, t.stationMm, -1),
			tack: true,
			pass: 1
		});
	}
	events.push({ type: 'mark', id: 'as-tacked' });
	change(m.afterTacks);
	plan.runs.forEach((run, index) => {
		const k = seams.findIndex((s) => s.joint.id === run.joint);
		const seam = seams[k];
		const [lo, hi] = [Math.min(run.fromMm, run.toMm), Math.max(run.fromMm, run.toMm)];
		const pairs = [...seam.stations.keys()].filter((i) => overlap(seam.reach[i], lo, hi, seam) > 1e-9);
		if (run.toMm < run.fromMm) pairs.reverse();
		for (const pair of pairs)
			events.push({
				type: 'weld',
				seam: k,
				pair,
				from: lo,
				to: hi,
				owner: run.id,
				actions: actionsAt(k, seam.stations[pair], index),
				tack: false,
				pass: run.pass
			});
		events.push({ type: 'mark', id: run.id });
		change(index + 2);
	});
	events.push({ type: 'mark', id: 'cold' });
	change(m.cold);
	events.push({ type: 'mark', id: 'unclamped' });
	return events;
}

/** Length of [lo, hi] inside a reach, mm; a closed seam's reach may wrap past its datum. */
function overlap(reach: [number, number], lo: number, hi: number, seam: SeamMesh): number {
	const part = (a: number, b: number) => Math.max(0, Math.min(b, hi) - Math.max(a, lo));
	let sum = part(reach[0], reach[1]);
	if (seam.closed) sum += part(reach[0] + seam.lengthMm, reach[1] + seam.lengthMm) + part(reach[0] - seam.lengthMm, reach[1] - seam.lengthMm);
	return sum;
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
	/** what has been applied so far by pair: [shrinkage mm, angle rad] of tacks and of runs, and the share of the tack not yet remelted */
	private readonly applied: { tack: Float64Array; tackLeft: number; run: Float64Array; preset: number }[][];

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
		this.applied = seams.map((s) => Array.from(s.stations, () => ({ tack: new Float64Array(2), tackLeft: 1, run: new Float64Array(2), preset: 0 })));
	}

	run(events: Event[]): Staged {
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
				this.weld(e, this.join(e.seam, e.pair));
				const next = events[i + 1];
				if (!(next?.type === 'weld' && next.owner === e.owner)) this.flush(out, e.owner);
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
	private refactor(events: Event[], from: number) {
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
	private join(k: number, i: number): { action: number; row: number; amount: number }[] {
		const rows = this.rowsOf(k, i);
		if (!rows.length || this.isActive[rows[0]]) return [];
		const before = this.active.length;
		const move = ACTIONS.map((_, action) => rows.map((r) => this.relative(action, r, before)));
		this.activate(rows);
		const { shrink, turn } = this.misfitDirections(k, i);
		const length = norm(shrink);
		const closing = ACTIONS.map((_, a) => (length > 1e-9 ? dot([move[a][0], move[a][1], move[a][2]], shrink) / length : 0));
		const total = closing.reduce((s, v) => s + v, 0);
		const beyond = total - this.seams[k].joint.gapMm;
		const share = beyond > 0 && total > 0 ? beyond / total : 0;
		const misfits: { action: number; row: number; amount: number }[] = [];
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
	private apply(
		loads: readonly { action: number; load: number; amount: number }[],
		misfits: readonly { action: number; row: number; amount: number }[]
	) {
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

	/** @param misfits what joining itself holds */
	private weld(e: Extract<Event, { type: 'weld' }>, misfits: { action: number; row: number; amount: number }[]) {
		const seam = this.seams[e.seam];
		const reach = seam.reach[e.pair];
		const share = Math.min(1, overlap(reach, e.from, e.to, seam) / (reach[1] - reach[0]));
		const done = this.applied[e.seam][e.pair];
		const joined = this.rowsOf(e.seam, e.pair).length > 0;
		const loads: { action: number; load: number; amount: number }[] = [];
		const pull = [e.actions.transverseShrinkageMm, e.actions.angularChangeRad];
		const { given } = e.actions;
		let change: number[];
		if (e.tack) {
			// a second tack at the same pair pulls no further than the first
			change = pull.map((p, k) => Math.max(0, Math.sign(p) * (TACK_SHARE * p - done.tack[k])) * Math.sign(p));
			change.forEach((v, k) => (done.tack[k] += v));
		} else {
			// the run replaces its tacks, and a later pass adds only what goes beyond the earlier ones
			const gone = e.pass === 1 ? Math.min(share, done.tackLeft) : 0;
			done.tackLeft -= gone;
			change = pull.map((p, k) => {
				const more = e.pass === 1 ? share * p : Math.sign(p) * Math.max(0, Math.abs(share * p) - Math.abs(done.run[k]));
				done.run[k] += more;
				return more - gone * done.tack[k];
			});
		}
		if (joined) {
			const { shrink, turn } = this.misfitDirections(e.seam, e.pair);
			const first = this.c.pairRow[e.seam][e.pair];
			for (let d = 0; d < 3; d++) {
				misfits.push({ action: given.shrinkage ? GIVEN : SHRINKAGE, row: first + d, amount: change[0] * shrink[d] });
				misfits.push({ action: given.angle ? GIVEN : ANGLE, row: first + 3 + d, amount: change[1] * turn[d] });
			}
			if (!done.preset && seam.joint.presetDeg !== 0) {
				done.preset = 1;
				for (let d = 0; d < 3; d++) misfits.push({ action: PRESET, row: first + 3 + d, amount: ((-seam.joint.presetDeg * Math.PI) / 180) * turn[d] });
			}
		}
		// each half of the pair's reach lies in one segment
		if (!e.tack) {
			const n = seam.stations.length;
			const segments = this.c.loadsOf[e.seam];
			const middle = seam.stations[e.pair];
			for (const [g, lo, hi] of [
				[e.pair - 1, reach[0], middle],
				[e.pair, middle, reach[1]]
			] as const) {
				const index = seam.closed ? (g + n) % n : g;
				if (!(hi > lo) || index < 0 || index >= segments.length) continue;
				const part = overlap([lo, hi], e.from, e.to, seam) / (2 * (hi - lo)); // the reach ends at the segment's middle
				if (part <= 0) continue;
				for (const load of segments[index]) {
					const kind = this.c.loads[load].kind;
					const full =
						kind === 'tendon'
							? e.actions.tendonForceN
							: kind === 'eccentric'
								? e.actions.tendonForceN * e.actions.eccentricityMm
								: kind === 'face-shrink'
									? pull[0]
									: pull[1];
					const target = part * full;
					const action =
						kind === 'tendon'
							? given.force
								? GIVEN
								: FORCE
							: kind === 'eccentric'
								? given.force
									? GIVEN
									: ECCENTRIC
								: kind === 'face-shrink'
									? given.shrinkage
										? GIVEN
										: SHRINKAGE
									: given.angle
										? GIVEN
										: ANGLE;
					// a later pass adds only what goes beyond the earlier ones (half a segment's share of what is there)
					const amount =
						e.pass === 1
							? target
							: Math.sign(target) * Math.max(0, Math.abs(target) - Math.abs(this.amounts[action][load] + this.newAmounts[action][load]) / 2);
					loads.push({ action, load, amount });
				}
			}
		}
		this.apply(loads, misfits);
	}

	/** Where B's node goes against A's per mm of shrinkage, and how B turns against A per rad of angular change. */
	private misfitDirections(k: number, i: number): { shrink: Vec3; turn: Vec3 } {
		const seam = this.seams[k];
		const f = seam.frames[i];
		const share = shareOfA(this.plan, seam);
		const shrink = add(scale(f.outB, 1 - share), scale(f.outA, -share));
		let turn: Vec3 = [0, 0, 0];
		if (seam.edgeB) turn = cross(scale(f.outB, -1), f.weldSide);
		else if (seam.edgeA) turn = scale(cross(scale(f.outA, -1), f.weldSide), -1);
		const size = norm(turn);
		return { shrink, turn: size > 1e-6 ? scale(turn, 1 / size) : turn };
	}

	private release(rows: number[], events: Event[], from: number) {
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
