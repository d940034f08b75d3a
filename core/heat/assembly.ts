/**
 * Heat of the whole piece through the whole weld-out: conduction on the shell's triangles, loss from both faces, seams that
 * conduct once they are welded, bars with a heat capacity and a contact of their own. Backward Euler, direct factors.
 * Mean properties over the weld range (each grade's response pair); the mesh is coarser than a pool, so what it tells is
 * the temperature some seconds after an arc and later: at the start of the next run, of bars, when the piece is cool.
 */
import { graphOf, type Graph } from '../linalg/ordering';
import { PatternCholesky, type FactorNumbers } from '../linalg/patternCholesky';

/** One thing that holds heat: a mesh node or a length of bar. Conductances tie them; each loses to the air. */
export interface HeatNetwork {
	/** J/K */
	capacity: Float64Array;
	/** W/K to the air */
	loss: Float64Array;
	/** ties [i, j] with W/K */
	ties: { i: number; j: number; conductance: number }[];
	ambientC: number;
}

export interface HeatedRun {
	id: string;
	/** what is heated, in order along the run, with the share of the run's heat each takes (sums to one) */
	places: { at: number; share: number }[];
	/** J */
	heat: number;
	/** s of arc */
	arcS: number;
	/** s between the arc before and this one at the least */
	pauseS: number;
	/** wait after that, s; when absent, until the start is at or below the limit */
	waitS?: number;
	/** where the limit is looked at: the run's own places */
	limitC: number;
	/** while it is waited for; still air when absent */
	film?: Film;
	/** once its start is told, everything is at the air's temperature again: what is told next is what has come since */
	isFromNew?: boolean;
}

/** A fan or cold air: times the still-air film on the whole piece and on a run's own places. */
export interface Film {
	all: number;
	own: number;
	/** s after the arc before from which it blows; from that arc's end when absent */
	fromS?: number;
}

export interface WeldOutHeat {
	runs: { run: string; startS: number; arcS: number; waitS: number; startC: number; hottestC: number; limitReached: boolean }[];
	/** °C of every place just before each run's arc */
	startFields: Float32Array[];
	/** s from the first arc, and temperatures: hottest place anywhere, and of each place watched */
	times: number[];
	hottest: number[];
	watched: number[][];
	/** s after the last arc until every place is this near the air */
	coolS: number;
	/** highest temperature of each place watched, °C */
	watchedPeak: number[];
	arcS: number;
	totalS: number;
	/** |given - stored - lost| / given */
	energyError: number;
}

/** Longest wait for one run and for the end, s: beyond it the limit is said not to be reached. */
const LONGEST_WAIT_S = 14_400;
/** Factors are kept for steps that come again, up to this many numbers in all (about 32 MB). */
const KEPT_NUMBERS = 4e6;
/** A rise of no meaning, K. */
const NOTHING_K = 1e-150;

/** The network's matrix for any step and any film, with the factors of steps that come again. One can serve many weld-outs. */
export class HeatSolver {
	private readonly graph: Graph;
	private readonly pattern: PatternCholesky;
	private readonly values: Float64Array;
	/** sum of the ties of each place, W/K */
	private readonly sum: Float64Array;
	private readonly kept = new Map<number, FactorNumbers>();
	private readonly work: Float64Array;

	constructor(readonly net: HeatNetwork) {
		const n = net.capacity.length;
		this.graph = graphOf(
			n,
			net.ties.map(({ i, j }) => [i, j])
		);
		this.pattern = new PatternCholesky(this.graph);
		this.values = new Float64Array(this.graph.ind.length);
		this.sum = new Float64Array(n);
		this.work = new Float64Array(n);
		const at = (i: number, j: number) => {
			const { ptr, ind } = this.graph;
			let [lo, hi] = [ptr[i], ptr[i + 1]];
			while (hi - lo > 1) {
				const mid = (lo + hi) >> 1;
				if (ind[mid] <= j) lo = mid;
				else hi = mid;
			}
			return lo;
		};
		for (const { i, j, conductance } of net.ties) {
			this.values[at(i, j)] -= conductance;
			this.values[at(j, i)] -= conductance;
			this.sum[i] += conductance;
			this.sum[j] += conductance;
		}
	}

	/** Factor of capacity / dt + conduction + loss; kept for the network's own loss. */
	private factor(dt: number, loss: Float64Array): FactorNumbers {
		const own = loss === this.net.loss;
		const known = own ? this.kept.get(dt) : undefined;
		if (known) return known;
		const { capacity } = this.net;
		const made = this.pattern.factorise(
			this.sum.map((s, i) => s + capacity[i] / dt + loss[i]),
			this.values
		);
		if (own) {
			if ((this.kept.size + 1) * this.pattern.size > KEPT_NUMBERS) this.kept.delete(this.kept.keys().next().value!);
			this.kept.set(dt, made);
		}
		return made;
	}

	/** Rise over the air after a step of `dt` s (backward Euler), in place, K. @param power W given to each place */
	advance(rise: Float64Array, dt: number, loss: Float64Array, power?: Float64Array) {
		const { capacity } = this.net;
		for (let i = 0; i < rise.length; i++) this.work[i] = (capacity[i] / dt) * rise[i] + (power ? power[i] : 0);
		this.pattern.solve(this.factor(dt, loss), this.work, rise);
		// far from any arc a rise falls to numbers that processors are slow with
		for (let i = 0; i < rise.length; i++) if (Math.abs(rise[i]) < NOTHING_K) rise[i] = 0;
	}
}

/** A step to nine digits: the same time reached by other sums is the same step, and its factor is known. */
const stepOf = (dt: number) => Number(dt.toPrecision(9));

class Stepper {
	/** over the air, K */
	readonly rise: Float64Array;
	time = 0;
	given = 0;
	lost = 0;
	/** W/K to the air now: a fan changes it for a while */
	loss: Float64Array;

	constructor(private readonly solver: HeatSolver) {
		this.loss = solver.net.loss;
		this.rise = new Float64Array(solver.net.capacity.length);
	}

	/** One step of `seconds`, with `power` W given to the places. */
	step(seconds: number, power?: Float64Array) {
		const { rise, loss } = this;
		const dt = stepOf(seconds);
		this.solver.advance(rise, dt, loss, power);
		for (let i = 0; i < rise.length; i++) {
			this.lost += dt * loss[i] * rise[i];
			if (power) this.given += dt * power[i];
		}
		this.time += dt;
	}

	/** J */
	stored() {
		const { capacity } = this.solver.net;
		return this.rise.reduce((s, t, i) => s + capacity[i] * t, 0);
	}
}

/** Idle steps from one arc's end, in still air until a film's own time comes: none reaches across it. */
function idling(s: Stepper, still: Float64Array, film: Film | undefined, own: readonly number[]): (dt: number) => number {
	const from = film ? s.time + (film.fromS ?? 0) : Infinity;
	return (dt) => {
		const left = from - s.time;
		if (film && left <= 1e-9 && s.loss === still) {
			s.loss = still.map((l) => l * film.all);
			for (const k of own) s.loss[k] = still[k] * Math.max(film.all, film.own);
		}
		const taken = left > 1e-9 ? Math.min(dt, left) : dt;
		s.step(taken);
		return taken;
	};
}

/** Steps of a wait: from `first` s, doubled each `each` steps, none longer than a minute. Few sizes, so that their factors come again. */
const waitStep = (k: number, first: number, each: number) => Math.min(60, first * 2 ** Math.floor(k / each));

/**
 * @param watched places whose temperature is kept; @param coolBelowC the piece is cool when all of it is below this
 * @param end what blows on all of it after the last arc
 */
export function weldOutHeat(solver: HeatSolver, runs: readonly HeatedRun[], watched: readonly number[], coolBelowC: number, end?: Film): WeldOutHeat {
	const { net } = solver;
	const s = new Stepper(solver);
	const air = net.ambientC;
	const out: WeldOutHeat = {
		runs: [],
		startFields: [],
		times: [],
		hottest: [],
		watched: watched.map(() => []),
		coolS: 0,
		watchedPeak: watched.map(() => net.ambientC),
		arcS: 0,
		totalS: 0,
		energyError: 0
	};
	const note = () => {
		let top = -Infinity;
		for (const t of s.rise) if (t > top) top = t;
		top += air;
		out.times.push(s.time);
		out.hottest.push(top);
		watched.forEach((k, i) => {
			out.watched[i].push(air + s.rise[k]);
			out.watchedPeak[i] = Math.max(out.watchedPeak[i], air + s.rise[k]);
		});
		return top;
	};
	note();
	runs.forEach((run, index) => {
		const hottest = () => run.places.reduce((t, p) => Math.max(t, s.rise[p.at]), -Infinity);
		const step = idling(
			s,
			net.loss,
			run.film,
			run.places.map((p) => p.at)
		);
		const idle = (seconds: number) => {
			for (let left = seconds, dt = 1; left > 1e-9; dt *= 1.6) {
				left -= step(Math.min(dt, left));
				note();
			}
		};
		if (index > 0) idle(run.pauseS);
		const before = s.time;
		let limitReached = true;
		if (run.waitS !== undefined) idle(run.waitS);
		else
			for (let k = 0; hottest() > run.limitC - air; k++) {
				if (s.time - before > LONGEST_WAIT_S) {
					limitReached = false;
					break;
				}
				step(waitStep(k, 1, 4));
				note();
			}
		s.loss = net.loss;
		const startS = s.time;
		const startC = air + s.rise[run.places[0].at];
		out.startFields.push(Float32Array.from(s.rise, (t) => air + t));
		const hottestC = air + hottest();
		if (run.isFromNew) s.rise.fill(0);
		// the arc in as many steps as it has pairs of places, one on each sheet; at least three
		const places = run.places;
		const pieces = Math.max(3, Math.ceil(places.length / 2));
		const dt = stepOf(run.arcS / pieces);
		for (let k = 0; k < pieces; k++) {
			const power = new Float64Array(net.capacity.length);
			const [lo, hi] = [k / pieces, (k + 1) / pieces];
			let done = 0;
			for (const p of places) {
				const part = Math.max(0, Math.min(hi, done + p.share) - Math.max(lo, done));
				power[p.at] += (run.heat * part) / dt;
				done += p.share;
			}
			s.step(dt, power);
			note();
		}
		out.arcS += run.arcS;
		out.runs.push({ run: run.id, startS, arcS: run.arcS, waitS: startS - before, startC, hottestC, limitReached });
	});
	out.totalS = s.time;
	const over = s.time;
	const step = idling(s, net.loss, end, []);
	let top = note();
	for (let k = 0; top > coolBelowC && s.time - over < LONGEST_WAIT_S; k++) {
		step(waitStep(k, 2, 7));
		top = note();
	}
	out.coolS = runs.length ? s.time - over : 0;
	out.energyError = s.given > 0 ? Math.abs(s.given - s.stored() - s.lost) / s.given : 0;
	return out;
}

/** From one time of a response to the next. */
export const RESPONSE_RATIO = 1.5;

export interface RunResponses {
	/** s after the end of a run's arc */
	times: Float64Array;
	/** rise over the air on run j, by time, from the heat of run i alone: [i][j * times + k], K; hottest of its places, and mean */
	hottest: Float32Array[];
	mean: Float32Array[];
}

/** What each run's heat alone does to every run's places as it spreads and leaves: heat is linear here, so any order is a sum of these. */
export function runResponses(solver: HeatSolver, runs: readonly HeatedRun[], progress: (share: number) => void = () => {}): RunResponses {
	const times = [0, 5];
	while (times[times.length - 1] < 5400) times.push(times[times.length - 1] * RESPONSE_RATIO);
	const out: RunResponses = { times: Float64Array.from(times), hottest: [], mean: [] };
	runs.forEach((run, i) => {
		const s = new Stepper(solver);
		const power = new Float64Array(s.rise.length);
		for (const p of run.places) power[p.at] += (run.heat * p.share) / run.arcS;
		for (let k = 0; k < 3; k++) s.step(run.arcS / 3, power);
		const end = s.time;
		const hottest = new Float32Array(runs.length * times.length);
		const mean = new Float32Array(runs.length * times.length);
		times.forEach((t, k) => {
			const left = end + t - s.time;
			// below a tenth of a kelvin nothing is left to tell
			if (k > 3 && runs.every((_, j) => hottest[j * times.length + k - 1] < 0.1)) return;
			if (left > 1e-9) for (let h = 0; h < 2; h++) s.step(left / 2);
			runs.forEach((r, j) => {
				let top = 0;
				let sum = 0;
				for (const p of r.places) {
					top = Math.max(top, s.rise[p.at]);
					sum += s.rise[p.at] / r.places.length;
				}
				hottest[j * times.length + k] = top;
				mean[j * times.length + k] = sum;
			});
		});
		out.hottest.push(hottest);
		out.mean.push(mean);
		progress((i + 1) / runs.length);
	});
	return out;
}
