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
import { momentOf, momentsOf } from '../document/steps';
import type { WeldEvent } from '../staging/events';
import { stage } from '../staging/stage';
import { GOES_BY_FORCE, jointDirections, PLACING, PRESET, WeldBook } from '../staging/weldBook';
import { Walk, type EventInput, type Laying, type OpenPlace, type RunColumns } from './walk';
import { Refusal } from '../refusal/refusal';

/** actions that go with the tendon force, and so with the heat that earlier runs have left */
const WITH_FORCE = [...GOES_BY_FORCE, PLACING];

/** @returns why this plan's order cannot be searched, or undefined */
export function orderIsTied(plan: PlanDocument): string | undefined {
	for (const h of plan.holdDowns)
		for (const key of ['on', 'off'] as const)
			if (h.life[key].includes('-run:'))
				return `“${h.name}” goes ${key} between two runs (${h.life[key]}), so the order is tied to it. Let it go ${key} at the start, after the tacks or when cold, search, and set it again.`;
	if (plan.runs.length < 2) return 'There are fewer than two runs: nothing to put in order.';
	return undefined;
}

export class OrderModel {
	/** length of an observation vector */
	readonly observed: number;
	/** rows that the runs themselves join */
	readonly openRows: number;
	private readonly start: Float64Array;
	private readonly open: OpenPlace[] = [];
	private readonly events: EventInput[][];
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

	/** @param scales multipliers of the actions: the shop's factors at their mean @throws RangeError see orderIsTied */
	// eslint-disable-next-line complexity, max-lines-per-function -- one reduction: every matrix of it is made from the one before
	constructor(
		private readonly a: Analysis,
		scales: Scales
	) {
		const tied = orderIsTied(a.plan);
		if (tied) throw new Refusal(tied);
		const { plan, mesh, condensed: c } = a;
		const firstRun = a.events.findIndex((e) => e.type === 'weld' && !e.tack);
		const before = stage(plan, mesh.seams, c, [...a.events.slice(0, firstRun), { type: 'mark', id: 'ready' }]);
		const ready = before.marks[before.marks.length - 1];
		const sum = (by: readonly Float64Array[], n: number) =>
			Float64Array.from({ length: n }, (_, i) => by.reduce((s, v, k) => s + scales[k] * v[i], 0));
		const lambda = sum(ready.lambda, c.rowCount);
		const amounts = sum(ready.amounts, c.loads.length);
		const active = before.active;
		const isActive = new Uint8Array(c.rowCount);
		for (const r of active) isActive[r] = 1;

		// places the runs join, and what each run puts in, pair by pair
		const placeOf = new Map<string, number>();
		const rows: number[] = [];
		const book = new WeldBook(plan, mesh.seams, c);
		const inputs: { loads: Map<number, number>; misfits: Map<number, number> }[] = [];
		const input = () => inputs.push({ loads: new Map(), misfits: new Map() }) - 1;
		const add = (map: Map<number, number>, k: number, v: number) => map.set(k, (map.get(k) ?? 0) + v);
		const byRun = new Map<string, EventInput[]>(plan.runs.map((r) => [r.id, []]));
		for (const e of a.events) {
			if (e.type !== 'weld') continue;
			const { loads, misfits } = book.increments(e);
			if (e.tack) continue;
			const open = this.placeFor(e, placeOf, rows, isActive);
			const event: EventInput = { open, force: -1, rest: -1 };
			const target = (action: number) => {
				const key = WITH_FORCE.includes(action) ? 'force' : 'rest';
				if (event[key] < 0) event[key] = input();
				return inputs[event[key]];
			};
			for (const l of loads) if (l.amount !== 0 && scales[l.action] !== 0) add(target(l.action).loads, l.load, scales[l.action] * l.amount);
			for (const x of misfits) {
				if (x.amount === 0) continue;
				if (x.action === PRESET && open >= 0) this.open[open].preset[x.row - rows[this.open[open].first]] += scales[PRESET] * x.amount;
				else add(target(x.action).misfits, x.row, scales[x.action] * x.amount);
			}
			byRun.get(e.owner)!.push(event);
		}
		this.events = plan.runs.map((r) => byRun.get(r.id)!);

		// the factor of what holds already, and everything else seen through it
		const n = active.length;
		const R = (this.openRows = rows.length);
		const { flexibility, rowCount } = c;
		const chol = factorOf(active, a);
		const whereOpen = new Map(rows.map((r, i) => [r, i]));
		const whereActive = new Map(active.map((r, i) => [r, i]));
		const columns: Float64Array[] = rows.map((r) => Float64Array.from(active, (q) => flexibility[q * rowCount + r]));
		const nl = c.loads.length;
		for (const x of inputs) {
			const g = new Float64Array(n);
			for (const [l, amount] of x.loads) for (let i = 0; i < n; i++) g[i] += c.rowLoad[active[i] * nl + l] * amount;
			for (const [r, amount] of x.misfits) {
				const i = whereActive.get(r);
				if (i !== undefined) g[i] -= amount;
			}
			columns.push(g);
		}
		const solved = solveAll(chol, columns, n);

		// hold-downs that let go when cold: the force they carry is observed
		const m = momentsOf(plan);
		const letGo = plan.holdDowns.filter((h) => momentOf(h.life.off, plan) === m.cold).flatMap((h) => c.holdRows.get(h.id) ?? []);
		const held = letGo.filter((r) => isActive[r]).map((r) => whereActive.get(r)!);
		const H = held.length;
		const outs = c.outCount;
		const U = this.open.length;
		this.observed = outs + 2 * U + H;

		/** observations of a column: what it does to the outputs, to open places (`move`, by open row), to held forces */
		const seenBy = (y: Float64Array, move: Float64Array, direct: (o: number) => number) => {
			const seen = new Float64Array(this.observed);
			for (let o = 0; o < outs; o++) {
				let s = direct(o);
				const first = o * rowCount;
				for (let i = 0; i < n; i++) s -= c.outRow[first + active[i]] * y[i];
				seen[o] = s;
			}
			this.open.forEach((p, u) => {
				for (let d = 0; d < 3; d++) {
					seen[outs + 2 * u] += p.shrink[d] * move[p.first + d];
					seen[outs + 2 * u + 1] += p.turn[d] * move[p.first + 3 + d];
				}
			});
			held.forEach((i, h) => (seen[outs + 2 * U + h] = y[i]));
			return seen;
		};
		const FR = rows.map((r) => Float64Array.from(active, (q) => flexibility[r * rowCount + q]));
		const through = (r: number, y: Float64Array) => {
			const f = FR[r];
			let s0 = 0;
			let s1 = 0;
			let i = 0;
			for (; i + 1 < n; i += 2) {
				s0 += f[i] * y[i];
				s1 += f[i + 1] * y[i + 1];
			}
			return s0 + s1 + (i < n ? f[i] * y[i] : 0);
		};
		this.G = new Float64Array(R * R);
		this.answer = new Float64Array(R * this.observed);
		for (let j = 0; j < R; j++) {
			const y = solved[j];
			const move = Float64Array.from({ length: R }, (_, i) => flexibility[rows[i] * rowCount + rows[j]] - through(i, y));
			for (let i = 0; i < R; i++) this.G[i * R + j] = move[i] + (i === j ? c.compliance[rows[j]] : 0);
			// an observation is its own part less its answer to the forces on the open rows
			const seen = seenBy(y, move, (o) => c.outRow[o * rowCount + rows[j]]);
			this.answer.set(seen, j * this.observed);
		}
		inputs.forEach((x, k) => {
			const y = solved[R + k];
			const move = Float64Array.from({ length: R }, (_, i) => {
				let s = -through(i, y);
				for (const [l, amount] of x.loads) s += c.rowLoad[rows[i] * nl + l] * amount;
				return s;
			});
			this.inputSeen.push(
				seenBy(y, move, (o) => {
					let s = 0;
					for (const [l, amount] of x.loads) s += c.outLoad[o * nl + l] * amount;
					return s;
				})
			);
			for (const [r, amount] of x.misfits) {
				const i = whereOpen.get(r);
				if (i !== undefined) move[i] -= amount;
			}
			this.inputRows.push(move);
		});

		// where it all stands as tacked
		const move = Float64Array.from(rows, (r) => {
			let s = 0;
			for (let l = 0; l < nl; l++) if (amounts[l] !== 0) s += c.rowLoad[r * nl + l] * amounts[l];
			for (const q of active) s -= flexibility[r * rowCount + q] * lambda[q];
			return s;
		});
		const y0 = sum(ready.byAction, outs);
		this.start = seenBy(new Float64Array(n), move, (o) => y0[o]);
		held.forEach((i, h) => (this.start[outs + 2 * U + h] = lambda[active[i]]));
		if (H)
			this.release = this.releaseOf(
				[...active, ...rows],
				held.map((i) => active[i])
			);
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
			preset: new Array<number>(6).fill(0)
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
		columns.forEach((run, k) => this.lay(seen, run, forces?.[k] ?? 1));
		return this.finish(seen);
	}

	/** The same with a copy of the outputs kept after every run, still held: what each run adds. */
	history(columns: readonly RunColumns[], forces?: ArrayLike<number>): Float64Array[] {
		const seen = this.start.slice();
		const outs = this.a.condensed.outCount;
		const out = [seen.slice(0, outs)];
		columns.forEach((run, k) => {
			this.lay(seen, run, forces?.[k] ?? 1);
			out.push(seen.slice(0, outs));
		});
		return out;
	}

	private lay(seen: Float64Array, run: RunColumns, force: number) {
		const outs = this.a.condensed.outCount;
		for (const part of run) {
			if (part.open >= 0) {
				const beyond = seen[outs + 2 * part.open] - this.open[part.open].gapMm;
				const turned = seen[outs + 2 * part.open + 1];
				// joined where the parts are, but for what fit-up holds: edges that touch, and the angle
				if (beyond > 0 && seen[outs + 2 * part.open] > 0) axpy(seen, part.closing!, -beyond);
				axpy(seen, part.turning!, -turned);
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
			const first = outs + 2 * this.open.length;
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
