/**
 * The piece as tacked, condensed once more to what an order of runs still changes: places that the runs themselves join, and
 * what can be observed (features' points, how far open places have moved, forces in hold-downs). What a run adds depends on the
 * set laid before it, so an order is a walk over stored columns and a swap of neighbours changes two of them: exact, not a
 * screening. Same mechanics as staging (docs/theory/staging.md); see docs/theory/search.md for the algebra.
 */
import { norm } from '../geometry/vec';
import { DenseCholesky } from '../linalg/dense';
import { axpy } from '../linalg/growing';
import type { Analysis, Scales } from '../forecast/analysis';
import type { PlanDocument } from '../document/schema';
import { lifeWords } from '../sequence/lifeWords';
import { Timeline } from '../sequence/timeline';
import { Assembly } from '../sequence/assembly';
import { pressedAlong } from '../staging/carried';
import type { WeldEvent } from '../staging/events';
import { stage } from '../staging/stage';
import { GOES_BY_FORCE, jointDirections, PLACING, PRESET, WeldBook } from '../staging/weldBook';
import { Walk, type EventInput, type Laying, type OpenPlace, type RunColumns } from './walk';
import { Refusal } from '../refusal/refusal';

/** actions that go with the tendon force, and so with the heat that earlier runs have left */
const WITH_FORCE = [...GOES_BY_FORCE, PLACING];

/** Of an open place: how far it has closed, turned and lifted. */
const OBSERVED = 3;

/** @returns why this plan's order cannot be searched, or undefined */
export function orderIsTied(plan: PlanDocument): string | undefined {
	if (plan.runs.length < 2) return 'There are fewer than two runs: nothing to put in order.';
	const timeline = new Timeline(plan);
	const first = timeline.firstRun;
	for (const h of plan.holdDowns) {
		const between = (moment: number | undefined) => moment !== undefined && moment > first && moment < timeline.cold;
		const key = between(timeline.onOf(h)) ? 'on' : between(timeline.offOf(h)) ? 'off' : undefined;
		if (key)
			return `“${h.name}” goes ${key} between two runs (${lifeWords(h.life[key], plan)}), so the order is tied to it. Let it go ${key} before the first run or when cold, search, and set it again.`;
	}
	return undefined;
}

/** What a length of a run puts in: amounts by load, and by row. */
interface Input {
	loads: Map<number, number>;
	misfits: Map<number, number>;
}

export class OrderModel {
	/** length of an observation vector */
	readonly observed: number;
	/** rows that the runs themselves join */
	readonly openRows: number;
	private readonly start: Float64Array;
	private readonly open: OpenPlace[] = [];
	private readonly events: EventInput[][];
	private readonly laterTacks: EventInput[][];
	private readonly tacksBefore: number[];
	/** open rows x open rows, and by row the answer of the observations */
	private readonly G: Float64Array;
	private readonly answer: Float64Array;
	/** by input: on the open rows, and on the observations */
	private readonly inputRows: Float64Array[] = [];
	private readonly inputSeen: Float64Array[] = [];
	/** for whole orders */
	private own?: Walk;
	/** outputs x hold rows that let go when cold */
	private readonly release?: { rows: number; change: Float64Array };

	/** rows that hold as tacked, and those that the runs join */
	private readonly active: number[];
	private readonly rows: number[] = [];
	/** places among the active rows whose hold-downs let go when cold: the force they carry is observed */
	private readonly held: number[];

	/** @param scales multipliers of the actions: the shop's factors at their mean @throws Refusal see orderIsTied */
	constructor(
		private readonly a: Analysis,
		private readonly scales: Scales
	) {
		const tied = orderIsTied(a.plan);
		if (tied) throw new Refusal(tied);
		const { plan, condensed: c } = a;
		const { ready, active } = this.asTacked();
		this.active = active;
		const isActive = new Uint8Array(c.rowCount);
		for (const r of active) isActive[r] = 1;
		const inputs: Input[] = [];
		({ events: this.events, laterTacks: this.laterTacks, tacksBefore: this.tacksBefore } = this.eventsOfRuns(inputs, isActive));
		this.openRows = this.rows.length;

		const whereActive = new Map(active.map((r, i) => [r, i]));
		const timeline = new Timeline(plan);
		const letGo = plan.holdDowns.filter((h) => timeline.offOf(h) === timeline.cold).flatMap((h) => c.holdRows.get(h.id) ?? []);
		this.held = letGo.filter((r) => isActive[r]).map((r) => whereActive.get(r)!);
		this.observed = c.outCount + OBSERVED * this.open.length + this.held.length;

		// the factor of what holds already, and everything else seen through it
		const solved = solveAll(factorOf(active, a), this.columnsOf(inputs, whereActive), active.length);
		const through = this.throughHeld();
		this.G = new Float64Array(this.openRows ** 2);
		this.answer = new Float64Array(this.openRows * this.observed);
		this.answerOpenRows(solved, through);
		this.answerInputs(inputs, solved.slice(this.openRows), through);
		this.start = this.observedAsTacked(ready);
		if (this.held.length)
			this.release = this.releaseOf(
				[...active, ...this.rows],
				this.held.map((i) => active[i])
			);
	}

	/** The piece when the last tack before the first run is on: what it has had, and the rows that hold. */
	private asTacked() {
		const { plan, mesh, condensed: c, events } = this.a;
		const firstRun = events.findIndex((e) => e.type === 'weld' && !e.tack);
		const before = stage(plan, mesh.seams, c, [...events.slice(0, firstRun), { type: 'mark', id: 'ready' }]);
		return { ready: before.marks[before.marks.length - 1], active: before.active };
	}

	private scaled(by: readonly Float64Array[], n: number): Float64Array {
		return Float64Array.from({ length: n }, (_, i) => by.reduce((s, v, k) => s + this.scales[k] * v[i], 0));
	}

	/** Places the runs join, and what each run puts in, pair by pair: the force's share apart from the rest. */
	private eventsOfRuns(inputs: Input[], isActive: Uint8Array): { events: EventInput[][]; laterTacks: EventInput[][]; tacksBefore: number[] } {
		const { plan, mesh, condensed: c, events } = this.a;
		const { scales, rows } = this;
		const placeOf = new Map<string, number>();
		const book = new WeldBook(plan, mesh.seams, c);
		const add = (map: Map<number, number>, k: number, v: number) => map.set(k, (map.get(k) ?? 0) + v);
		const byRun = new Map<string, EventInput[]>(plan.runs.map((r) => [r.id, []]));
		const assembly = new Assembly(plan);
		const later = new Map<number, EventInput[]>();
		let welding = false;
		for (const e of events) {
			if (e.type !== 'weld') continue;
			const { loads, misfits } = book.increments(e);
			welding ||= !e.tack;
			if (!welding) continue;
			const open = this.placeFor(e, placeOf, rows, isActive);
			const event: EventInput = { open, force: -1, rest: -1 };
			const target = (action: number) => {
				// what earlier runs have left in heat is not counted on a tack
				const key = !e.tack && WITH_FORCE.includes(action) ? 'force' : 'rest';
				if (event[key] < 0) event[key] = inputs.push({ loads: new Map(), misfits: new Map() }) - 1;
				return inputs[event[key]];
			};
			for (const l of loads) if (l.amount !== 0 && scales[l.action] !== 0) add(target(l.action).loads, l.load, scales[l.action] * l.amount);
			for (const x of misfits) {
				if (x.amount === 0) continue;
				if (x.action === PRESET && open >= 0) this.open[open].preset[x.row - rows[this.open[open].first]] += scales[PRESET] * x.amount;
				else add(target(x.action).misfits, x.row, scales[x.action] * x.amount);
			}
			if (!e.tack) byRun.get(e.owner)!.push(event);
			else {
				const step = assembly.ofJoint(mesh.seams[e.seam].joint.id);
				later.set(step, [...(later.get(step) ?? []), event]);
			}
		}
		const steps = [...later.keys()].sort((p, q) => p - q);
		return {
			events: plan.runs.map((r) => byRun.get(r.id)!),
			laterTacks: steps.map((s) => later.get(s)!),
			tacksBefore: plan.runs.map((r) => steps.filter((s) => s <= assembly.ofJoint(r.joint)).length)
		};
	}

	/** What a unit on each open row, and each input, does to the active rows. */
	private columnsOf(inputs: readonly Input[], whereActive: ReadonlyMap<number, number>): Float64Array[] {
		const { flexibility, rowCount, rowLoad, loads } = this.a.condensed;
		const { active } = this;
		const nl = loads.length;
		const open = this.rows.map((r) => Float64Array.from(active, (q) => flexibility[q * rowCount + r]));
		const put = inputs.map((x) => {
			const g = new Float64Array(active.length);
			for (const [l, amount] of x.loads) for (let i = 0; i < active.length; i++) g[i] += rowLoad[active[i] * nl + l] * amount;
			for (const [r, amount] of x.misfits) {
				const i = whereActive.get(r);
				if (i !== undefined) g[i] -= amount;
			}
			return g;
		});
		return [...open, ...put];
	}

	/** What forces on the active rows do to an open one. */
	private throughHeld(): (r: number, y: Float64Array) => number {
		const { flexibility, rowCount } = this.a.condensed;
		const n = this.active.length;
		const between = this.rows.map((r) => Float64Array.from(this.active, (q) => flexibility[r * rowCount + q]));
		return (r, y) => {
			const f = between[r];
			let s0 = 0;
			let s1 = 0;
			let i = 0;
			for (; i + 1 < n; i += 2) {
				s0 += f[i] * y[i];
				s1 += f[i + 1] * y[i + 1];
			}
			return s0 + s1 + (i < n ? f[i] * y[i] : 0);
		};
	}

	/** Observations of a column: what it does to the outputs, to open places (`move`, by open row), to held forces. */
	private seenBy(y: Float64Array, move: Float64Array, direct: (o: number) => number): Float64Array {
		const { outCount, outRow, rowCount } = this.a.condensed;
		const { active } = this;
		const seen = new Float64Array(this.observed);
		for (let o = 0; o < outCount; o++) {
			let s = direct(o);
			const first = o * rowCount;
			for (let i = 0; i < active.length; i++) s -= outRow[first + active[i]] * y[i];
			seen[o] = s;
		}
		this.open.forEach((p, u) => {
			for (let d = 0; d < 3; d++) {
				seen[outCount + OBSERVED * u] += p.shrink[d] * move[p.first + d];
				seen[outCount + OBSERVED * u + 1] += p.turn[d] * move[p.first + 3 + d];
				if (p.press) seen[outCount + OBSERVED * u + 2] += p.press[d] * move[p.first + d];
			}
		});
		this.held.forEach((i, h) => (seen[this.heldAt(h)] = y[i]));
		return seen;
	}
	private heldAt(h: number): number {
		return this.a.condensed.outCount + OBSERVED * this.open.length + h;
	}

	/** Open rows against each other, and what is observed of a force on each. */
	private answerOpenRows(solved: readonly Float64Array[], through: (r: number, y: Float64Array) => number) {
		const { flexibility, rowCount, compliance, outRow } = this.a.condensed;
		const { rows, openRows: R } = this;
		for (let j = 0; j < R; j++) {
			const y = solved[j];
			const move = Float64Array.from({ length: R }, (_, i) => flexibility[rows[i] * rowCount + rows[j]] - through(i, y));
			for (let i = 0; i < R; i++) this.G[i * R + j] = move[i] + (i === j ? compliance[rows[j]] : 0);
			// an observation is its own part less its answer to the forces on the open rows
			this.answer.set(
				this.seenBy(y, move, (o) => outRow[o * rowCount + rows[j]]),
				j * this.observed
			);
		}
	}

	private answerInputs(inputs: readonly Input[], solved: readonly Float64Array[], through: (r: number, y: Float64Array) => number) {
		const { rowLoad, outLoad, loads } = this.a.condensed;
		const { rows } = this;
		const nl = loads.length;
		const whereOpen = new Map(rows.map((r, i) => [r, i]));
		inputs.forEach((x, k) => {
			const y = solved[k];
			const move = Float64Array.from({ length: rows.length }, (_, i) => {
				let s = -through(i, y);
				for (const [l, amount] of x.loads) s += rowLoad[rows[i] * nl + l] * amount;
				return s;
			});
			this.inputSeen.push(
				this.seenBy(y, move, (o) => {
					let s = 0;
					for (const [l, amount] of x.loads) s += outLoad[o * nl + l] * amount;
					return s;
				})
			);
			for (const [r, amount] of x.misfits) {
				const i = whereOpen.get(r);
				if (i !== undefined) move[i] -= amount;
			}
			this.inputRows.push(move);
		});
	}

	/** Where it all stands as tacked. */
	private observedAsTacked(ready: ReturnType<OrderModel['asTacked']>['ready']): Float64Array {
		const c = this.a.condensed;
		const nl = c.loads.length;
		const lambda = this.scaled(ready.lambda, c.rowCount);
		const amounts = this.scaled(ready.amounts, nl);
		const move = Float64Array.from(this.rows, (r) => {
			let s = 0;
			for (let l = 0; l < nl; l++) if (amounts[l] !== 0) s += c.rowLoad[r * nl + l] * amounts[l];
			for (const q of this.active) s -= c.flexibility[r * c.rowCount + q] * lambda[q];
			return s;
		});
		const y0 = this.scaled(ready.byAction, c.outCount);
		const start = this.seenBy(new Float64Array(this.active.length), move, (o) => y0[o]);
		this.held.forEach((i, h) => (start[this.heldAt(h)] = lambda[this.active[i]]));
		return start;
	}

	private placeFor(e: WeldEvent, placeOf: Map<string, number>, rows: number[], isActive: Uint8Array): number {
		const { mesh, plan, condensed: c } = this.a;
		const seam = mesh.seams[e.seam];
		const row = c.pairRow[e.seam][e.pair];
		if (seam.a[e.pair] === seam.b[e.pair] || isActive[row]) return -1;
		const key = `${e.seam}/${e.pair}`;
		const known = placeOf.get(key);
		if (known !== undefined) return known;
		const { shrink, about } = jointDirections(plan, seam, e.pair);
		const size = norm(shrink);
		const first = rows.length;
		for (let d = 0; d < 6; d++) rows.push(row + d);
		const place = this.open.push({
			first,
			gapMm: seam.joint.gapMm,
			shrink: shrink.map((v) => (size > 1e-9 ? v / size : 0)),
			turn: [...about],
			preset: new Array<number>(6).fill(0),
			laidOn: c.laidOn.findIndex((p) => p.seams.includes(e.seam)),
			press: pressedAlong(c.laidOn, mesh.seams, e.seam, e.pair)
		});
		placeOf.set(key, place - 1);
		return place - 1;
	}

	/** What letting go of hold rows does to the outputs, per unit of the force each carries. */
	private releaseOf(all: readonly number[], going: readonly number[]) {
		const { condensed: c } = this.a;
		const stay = all.filter((r) => !going.includes(r));
		const chol = factorOf(stay, this.a);
		const solved = solveAll(
			chol,
			going.map((q) => Float64Array.from(stay, (r) => c.flexibility[r * c.rowCount + q])),
			stay.length
		);
		const change = new Float64Array(c.outCount * going.length);
		for (let o = 0; o < c.outCount; o++)
			going.forEach((q, h) => {
				let s = c.outRow[o * c.rowCount + q];
				for (let i = 0; i < stay.length; i++) s -= c.outRow[o * c.rowCount + stay[i]] * solved[h][i];
				change[o * going.length + h] = s;
			});
		return { rows: going.length, change };
	}

	/** Does it matter which way a run is laid? Not where everything on it is tacked: the mechanics see no order inside it then. */
	hasDirection(run: number): boolean {
		return this.events[run].some((e) => e.open >= 0);
	}

	/** A walk over an order from its beginning. It holds memory of its own: begin it anew with `back(0)` rather than ask for many. */
	walk(): Walk {
		return new Walk(
			{
				G: this.G,
				answer: this.answer,
				inputRows: this.inputRows,
				inputSeen: this.inputSeen,
				open: this.open,
				events: this.events,
				laterTacks: this.laterTacks,
				tacksBefore: this.tacksBefore,
				openRows: this.openRows,
				observed: this.observed
			},
			this.a.condensed.model.factor.kernel
		);
	}

	/** Columns of a whole order. */
	columns(order: readonly Laying[]): RunColumns[] {
		const w = (this.own ??= this.walk());
		w.back(0);
		return order.map((l) => w.append(l));
	}

	/**
	 * Outputs of the released piece (3 per output point, mm) for an order given by its runs' columns.
	 * @param forces factor on each run's tendon force, by place in the order; cold metal when absent
	 */
	outputs(columns: readonly RunColumns[], forces?: ArrayLike<number>): Float64Array {
		const seen = this.start.slice();
		const lies = new Map<number, Float64Array>();
		columns.forEach((run, k) => this.lay(seen, run, forces?.[k] ?? 1, lies));
		return this.finish(seen);
	}

	/** The same with a copy of the outputs kept after every run, still held: what each run adds. */
	history(columns: readonly RunColumns[], forces?: ArrayLike<number>): Float64Array[] {
		const seen = this.start.slice();
		const outs = this.a.condensed.outCount;
		const out = [seen.slice(0, outs)];
		const lies = new Map<number, Float64Array>();
		columns.forEach((run, k) => {
			this.lay(seen, run, forces?.[k] ?? 1, lies);
			out.push(seen.slice(0, outs));
		});
		return out;
	}

	/** @param lies by part laid on: the observations when it was first joined */
	private lay(seen: Float64Array, run: RunColumns, force: number, lies: Map<number, Float64Array>) {
		const outs = this.a.condensed.outCount;
		for (const part of run) {
			if (part.open >= 0) {
				const { laidOn, gapMm, press } = this.open[part.open];
				if (laidOn >= 0 && !lies.has(laidOn)) lies.set(laidOn, seen.slice());
				const at = outs + OBSERVED * part.open;
				const closed = seen[at] - (lies.get(laidOn)?.[at] ?? 0);
				const turned = seen[at + 1] - (lies.get(laidOn)?.[at + 1] ?? 0);
				const lifted = press ? seen[at + 2] : 0;
				// joined where the parts are, but for what fit-up holds: edges that touch, the angle, what is pressed on
				if (closed > gapMm && closed > 0) axpy(seen, part.closing!, gapMm - closed);
				axpy(seen, part.turning!, -turned);
				if (part.pressing) axpy(seen, part.pressing, -lifted);
			}
			if (part.force) axpy(seen, part.force, force);
			if (part.rest) axpy(seen, part.rest, 1);
		}
	}

	private finish(seen: Float64Array): Float64Array {
		const outs = this.a.condensed.outCount;
		const y = seen.slice(0, outs);
		if (this.release) {
			const { rows, change } = this.release;
			const first = this.heldAt(0);
			for (let o = 0; o < outs; o++) for (let h = 0; h < rows; h++) y[o] += change[o * rows + h] * seen[first + h];
		}
		return y;
	}
}

function factorOf(rows: readonly number[], { condensed: c }: Analysis): DenseCholesky {
	const n = rows.length;
	const m = new Float64Array(n * n);
	for (let i = 0; i < n; i++)
		for (let j = 0; j <= i; j++) m[i * n + j] = c.flexibility[rows[i] * c.rowCount + rows[j]] + (i === j ? c.compliance[rows[i]] : 0);
	return new DenseCholesky(m, n, c.model.factor.kernel);
}

function solveAll(chol: DenseCholesky, columns: readonly Float64Array[], n: number): Float64Array[] {
	const out: Float64Array[] = [];
	for (let k = 0; k < columns.length; k += 4) {
		const group = columns.slice(k, k + 4);
		const b = new Float64Array(4 * n);
		group.forEach((v, q) => {
			for (let i = 0; i < n; i++) b[4 * i + q] = v[i];
		});
		chol.solveLeading4(b, n);
		group.forEach((_, q) => out.push(Float64Array.from({ length: n }, (__, i) => b[4 * i + q])));
	}
	return out;
}
