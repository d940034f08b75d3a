/**
 * Full depth: the piece joined tack by tack and run by run as in the quick step, but in equilibrium at every stage of the
 * non-linear shell. Pairs join where the parts then are (with what fit-up holds, see stage.ts); hold-downs grip where the
 * sheet then lies and let go at their moment. Edges not joined yet touch and do not pass. What the hot metal does to a gap ahead of the arc is not in it.
 */
import { add, cross, dot, norm, scale, sub, type Vec3 } from '../geometry/vec';
import { RigidFit } from '../linalg/rigid';
import { freedom, TURN } from '../shell/freedoms';
import { pressedAlong, restsOf, type Rest } from './carried';
import { minimise } from '../equilibrium/minimise';
import { moved, type State } from '../equilibrium/state';
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../document/schema';
import { nodeAt } from '../shell/model';
import type { Condensed } from './condense';
import type { StageEvent, WeldEvent } from './events';
import { addPulls, type FinalShape } from './finalShape';
import { jointDirections, WeldBook } from './weldBook';

export interface FullStages {
	/** state at each mark; the last one lies in the posture stated, under its weight */
	marks: { id: string; state: State }[];
	/** where it stopped, in the planner's words; empty when it went through */
	stopped: string;
	solutions: number;
	iterations: number;
}

/** Pairs of a run laid before the shape is found anew. */
const PAIRS_A_STEP = 3;

/**
 * @param model a stepwise FinalShape on three points: the jig that holds the piece while it is welded. @param laying the same in
 * the posture stated, in which the finished piece is laid down. @param scales multipliers by action
 */
// eslint-disable-next-line complexity, max-lines-per-function -- a branch for each sort of event
export function fullStages(
	plan: PlanDocument,
	seams: SeamMesh[],
	c: Condensed,
	events: readonly StageEvent[],
	model: FinalShape,
	laying: FinalShape,
	scales: readonly number[],
	progress: (share: number) => void
): FullStages {
	const book = new WeldBook(plan, seams, c);
	const pull = model.emptyPull();
	const on = new Set<number>();
	/** misfit places of links put on since the last shape */
	const fresh = new Set<number>();
	const out: FullStages = { marks: [], stopped: '', solutions: 0, iterations: 0 };
	let state = model.start;
	let largest = 1;
	for (const e of events) if (e.type === 'weld') largest = Math.max(largest, scales[0] * e.actions.tendonForceN);
	model.weighs = false;

	let laid = model.emptyPull();
	let done = 0;
	const settle = (what: string, lying = model): boolean => {
		const target = { misfit: pull.misfit.slice(), amounts: pull.amounts.slice() };
		const change = addPulls(target, laid, -1);
		// a link just put on starts from where it lies: only its own change is laid on by shares
		for (const at of fresh) change.misfit[at] = 0;
		const at = (share: number) => lying.lay(addPulls(target, change, share - 1), 1);
		const tolerance = {
			forceTolerance: 1e-5 * largest,
			momentTolerance: 1e-4 * largest,
			seed: model.seed,
			maxTurn: 0.3,
			lay: at,
			progress: () => progress(done)
		};
		let r = minimise(lying.system, state, { ...tolerance, once: true, maxIterations: 40 });
		// the whole step was too much: by shares, as far down as it takes
		if (!r.converged) r = minimise(lying.system, state, { ...tolerance, steps: 4 });
		laid = target;
		fresh.clear();
		out.solutions++;
		out.iterations += r.iterations;
		if (!r.converged) {
			out.stopped = `No equilibrium was found at ${what}; the shapes up to there stand.`;
			return false;
		}
		state = r.state;
		return true;
	};
	/** What comes on at a later step is laid where the piece lies by then, before its first tack. */
	const waiting = new Map<number, Rest[]>();
	for (const r of restsOf(plan, model.mesh)) waiting.set(r.part, [...(waiting.get(r.part) ?? []), r]);
	/** by first row of a pair: how it lay when its part was laid on */
	const lies = new Map<number, { closing: number; turned: number }>();
	const partOf = (id: string) => model.mesh.parts.findIndex((p) => p.part.id === id);
	const layOn = (part: number) => {
		const rests = waiting.get(part);
		if (!rests) return;
		waiting.delete(part);
		const { xyz } = model.mesh;
		const now = rests.map((r) => nodeAt(state.x, r.own));
		const wanted = rests.map((r) => add(nodeAt(state.x, r.standing), sub(nodeAt(xyz, r.own), nodeAt(xyz, r.standing))));
		const centre = scale(
			now.reduce((s, p) => add(s, p), [0, 0, 0] as Vec3),
			1 / now.length
		);
		const m = new RigidFit(now, centre).motion(wanted.map((p, i) => sub(p, now[i])));
		const turn: Vec3 = [m[3], m[4], m[5]];
		const { node0, flat } = model.mesh.parts[part];
		const step = new Float64Array(2 * state.x.length);
		for (let k = node0; k < node0 + flat.xy.length / 2; k++) {
			const shift = cross(turn, sub(nodeAt(state.x, k), centre));
			for (let d = 0; d < 3; d++) {
				step[freedom(k, d)] = m[d] + shift[d];
				step[freedom(k, TURN + d)] = turn[d];
			}
		}
		state = moved(state, step, 1);
		// settled by several seams: held to the angle it lies at, not to one of theirs
		for (const s of c.laidOn.find((p) => p.part === part)?.seams ?? [])
			seams[s].stations.forEach((_, i) => {
				if (seams[s].a[i] === seams[s].b[i]) return;
				const { move, about } = model.relative(state, c.pairRow[s][i]);
				const { shrink, about: axis } = jointDirections(plan, seams[s], i);
				const length = norm(shrink);
				lies.set(c.pairRow[s][i], { closing: length > 1e-9 ? dot(move, shrink) / length : 0, turned: dot(about, axis) });
			});
	};
	const join = (e: WeldEvent) => {
		const seam = seams[e.seam];
		if (seam.a[e.pair] === seam.b[e.pair]) return;
		const first = c.pairRow[e.seam][e.pair];
		if (on.has(first)) return;
		layOn(partOf(seam.joint.a.part));
		layOn(partOf(seam.joint.b.part));
		on.add(first);
		const { move, about } = model.relative(state, first);
		const { shrink, about: axis } = jointDirections(plan, seam, e.pair);
		const length = norm(shrink);
		const closing = (length > 1e-9 ? dot(move, shrink) / length : 0) - (lies.get(first)?.closing ?? 0);
		const beyond = Math.max(0, closing - seam.joint.gapMm);
		const turned = dot(about, axis) - (lies.get(first)?.turned ?? 0);
		const press = pressedAlong(c.laidOn, seams, e.seam, e.pair);
		const lifted = press ? dot(move, press) : 0;
		const { at } = model.placeOf(first);
		for (let d = 0; d < 3; d++) {
			pull.misfit[at + d] = move[d] - (length > 1e-9 ? (beyond * shrink[d]) / length : 0) - (press ? lifted * press[d] : 0);
			pull.misfit[at + 3 + d] = about[d] - turned * axis[d];
			fresh.add(at + d);
			fresh.add(at + 3 + d);
		}
		model.putOn(first);
	};
	const weld = (e: WeldEvent) => {
		join(e);
		const { loads, misfits } = book.increments(e);
		for (const l of loads) pull.amounts[l.load] += scales[l.action] * l.amount;
		for (const m of misfits) pull.misfit[model.placeOf(m.row).at] += scales[m.action] * m.amount;
	};
	const hold = (rows: readonly number[]) => {
		for (const r of rows) {
			if (on.has(r)) continue;
			const { at, spring } = model.placeOf(r);
			if (spring) {
				pull.misfit[at] = dot(spring.direction, nodeAt(state.x, spring.node)) - spring.rest;
				fresh.add(at);
			} else {
				// a strongback's tie: six rows from its first
				const first = rows[6 * Math.floor(rows.indexOf(r) / 6)];
				if (r !== first) continue;
				const { move, about } = model.relative(state, first);
				pull.misfit.set([...move, ...about], at);
				for (let d = 0; d < 6; d++) fresh.add(at + d);
			}
			on.add(r);
			model.putOn(r);
		}
	};
	const label = (owner: string) => {
		const index = plan.runs.findIndex((r) => r.id === owner);
		return index < 0 ? 'the tacks' : `run ${index + 1} on “${plan.joints.find((j) => j.id === plan.runs[index].joint)!.name}”`;
	};

	for (let i = 0; i < events.length; i++) {
		const e = events[i];
		done = i / events.length;
		progress(done);
		if (e.type === 'on') hold(e.rows);
		else if (e.type === 'off') {
			for (const r of e.rows) {
				on.delete(r);
				model.takeOff(r);
			}
			const next = events[i + 1];
			if (next?.type !== 'off' && !settle('letting the hold-downs go')) return out;
		} else if (e.type === 'mark') {
			if (e.id === 'unclamped') {
				// lies in its posture now: joined parts drop their ties, weight comes on
				// joined now: parts drop their ties; a strongback that is off keeps its own, it must not drift
				for (const t of laying.ties) if (t.node < laying.shellNodes) t.stiffness = 0;
				laying.weighs = true;
				for (const row of on) laying.putOn(row);
				if (!settle('laying the finished piece down', laying)) return out;
			}
			out.marks.push({ id: e.id, state });
		} else {
			let count = 1;
			weld(e);
			for (let next = events[i + 1]; next?.type === 'weld' && next.owner === e.owner && count < PAIRS_A_STEP; next = events[i + 1]) {
				weld(next);
				count++;
				i++;
			}
			if (!settle(label(e.owner))) return out;
		}
	}
	progress(1);
	return out;
}
