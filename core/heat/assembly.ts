/**
 * Heat of the whole piece through the whole weld-out: conduction on the shell's triangles, loss from both faces, seams that
 * conduct once they are welded, bars with a heat capacity and a contact of their own. Backward Euler, conjugate gradients.
 * Mean properties over the weld range (each grade's response pair); the mesh is coarser than a pool, so what it tells is
 * the temperature some seconds after an arc and later: at the start of the next run, of bars, when the piece is cool.
 */

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
	/** times the still-air film while it is waited for, on the whole piece and on the run's own places; 1 when absent */
	film?: { all: number; own: number };
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
/** Residual of the conjugate gradients, relative to the largest term: far below what the mesh and mean properties leave open. */
const TOLERANCE = 1e-6;

class Stepper {
	readonly T: Float64Array;
	time = 0;
	given = 0;
	lost = 0;
	private readonly n: number;
	private readonly ptr: Int32Array;
	private readonly col: Int32Array;
	private readonly val: Float64Array;
	private readonly sum: Float64Array;
	private readonly work: Float64Array[];
	/** W/K to the air now: a fan changes it for a while */
	readonly loss: Float64Array;

	/** @param tolerance residual of the conjugate gradients, relative to the largest term */
	constructor(
		private readonly net: HeatNetwork,
		private readonly tolerance = TOLERANCE
	) {
		this.loss = net.loss.slice();
		const n = (this.n = net.capacity.length);
		this.T = new Float64Array(n).fill(net.ambientC);
		this.sum = new Float64Array(n);
		this.work = Array.from({ length: 6 }, () => new Float64Array(n));
		const count = new Int32Array(n + 1);
		for (const { i, j } of net.ties) {
			count[i + 1]++;
			count[j + 1]++;
		}
		for (let k = 0; k < n; k++) count[k + 1] += count[k];
		this.ptr = count.slice();
		this.col = new Int32Array(2 * net.ties.length);
		this.val = new Float64Array(2 * net.ties.length);
		const next = count.slice();
		for (const { i, j, conductance } of net.ties) {
			this.col[next[i]] = j;
			this.val[next[i]++] = conductance;
			this.col[next[j]] = i;
			this.val[next[j]++] = conductance;
			this.sum[i] += conductance;
			this.sum[j] += conductance;
		}
	}

	private multiply(x: Float64Array, dt: number, y: Float64Array) {
		const { loss } = this;
		const { capacity } = this.net;
		for (let i = 0; i < this.n; i++) {
			let s = (capacity[i] / dt + this.sum[i] + loss[i]) * x[i];
			for (let p = this.ptr[i]; p < this.ptr[i + 1]; p++) s -= this.val[p] * x[this.col[p]];
			y[i] = s;
		}
	}

	/** One step of `dt` s with `power` W given to the places. */
	step(dt: number, power?: Float64Array) {
		const { n, T, net, loss } = this;
		const { capacity, ambientC } = net;
		const [b, r, z, q, inverse, p] = this.work;
		for (let i = 0; i < n; i++) b[i] = (capacity[i] / dt) * T[i] + loss[i] * ambientC + (power ? power[i] : 0);
		this.multiply(T, dt, q);
		let scale = 0;
		for (let i = 0; i < n; i++) {
			r[i] = b[i] - q[i];
			scale = Math.max(scale, Math.abs(b[i]));
		}
		for (let i = 0; i < n; i++) inverse[i] = 1 / (capacity[i] / dt + this.sum[i] + loss[i]);
		let rz = 0;
		for (let i = 0; i < n; i++) {
			z[i] = r[i] * inverse[i];
			rz += r[i] * z[i];
		}
		p.set(z);
		for (let k = 0; k < 2000; k++) {
			let worst = 0;
			for (let i = 0; i < n; i++) worst = Math.max(worst, Math.abs(r[i]));
			if (worst <= this.tolerance * scale) break;
			this.multiply(p, dt, q);
			let pq = 0;
			for (let i = 0; i < n; i++) pq += p[i] * q[i];
			const alpha = rz / pq;
			let next = 0;
			for (let i = 0; i < n; i++) {
				T[i] += alpha * p[i];
				r[i] -= alpha * q[i];
				z[i] = r[i] * inverse[i];
				next += r[i] * z[i];
			}
			const beta = next / rz;
			rz = next;
			for (let i = 0; i < n; i++) p[i] = z[i] + beta * p[i];
		}
		for (let i = 0; i < n; i++) {
			this.lost += dt * loss[i] * (T[i] - ambientC);
			if (power) this.given += dt * power[i];
		}
		this.time += dt;
	}

	stored() {
		let s = 0;
		for (let i = 0; i < this.n; i++) s += this.net.capacity[i] * (this.T[i] - this.net.ambientC);
		return s;
	}
}

/** @param watched places whose temperature is kept; @param coolBelowC the piece is cool when all of it is below this */
export function weldOutHeat(net: HeatNetwork, runs: readonly HeatedRun[], watched: readonly number[], coolBelowC: number): WeldOutHeat {
	const s = new Stepper(net);
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
		for (const t of s.T) if (t > top) top = t;
		out.times.push(s.time);
		out.hottest.push(top);
		watched.forEach((k, i) => {
			out.watched[i].push(s.T[k]);
			out.watchedPeak[i] = Math.max(out.watchedPeak[i], s.T[k]);
		});
		return top;
	};
	note();
	runs.forEach((run, index) => {
		const hottest = () => run.places.reduce((t, p) => Math.max(t, s.T[p.at]), -Infinity);
		const idle = (seconds: number) => {
			const end = s.time + seconds;
			for (let dt = 1; s.time < end - 1e-9; dt *= 1.6) {
				s.step(Math.min(dt, end - s.time));
				note();
			}
		};
		if (run.film) {
			for (let i = 0; i < s.loss.length; i++) s.loss[i] = net.loss[i] * run.film.all;
			for (const p of run.places) s.loss[p.at] = net.loss[p.at] * Math.max(run.film.all, run.film.own);
		}
		if (index > 0) idle(run.pauseS);
		const before = s.time;
		let limitReached = true;
		if (run.waitS !== undefined) idle(run.waitS);
		else
			for (let dt = 1; hottest() > run.limitC; dt = Math.min(60, dt * 1.2)) {
				if (s.time - before > LONGEST_WAIT_S) {
					limitReached = false;
					break;
				}
				s.step(dt);
				note();
			}
		if (run.film) s.loss.set(net.loss);
		const startS = s.time;
		const startC = s.T[run.places[0].at];
		out.startFields.push(Float32Array.from(s.T));
		const hottestC = hottest();
		// the arc in as many steps as it has places, at least three
		const places = run.places;
		const pieces = Math.max(3, places.length);
		const dt = run.arcS / pieces;
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
	const end = s.time;
	let top = note();
	for (let dt = 2; top > coolBelowC && s.time - end < LONGEST_WAIT_S; dt = Math.min(60, dt * 1.1)) {
		s.step(dt);
		top = note();
	}
	out.coolS = runs.length ? s.time - end : 0;
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
export function runResponses(net: HeatNetwork, runs: readonly HeatedRun[], progress: (share: number) => void = () => {}): RunResponses {
	const times = [0, 5];
	while (times[times.length - 1] < 5400) times.push(times[times.length - 1] * RESPONSE_RATIO);
	const out: RunResponses = { times: Float64Array.from(times), hottest: [], mean: [] };
	runs.forEach((run, i) => {
		const s = new Stepper({ ...net, ambientC: 0 }, 1e-4);
		const power = new Float64Array(net.capacity.length);
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
					top = Math.max(top, s.T[p.at]);
					sum += s.T[p.at] / r.places.length;
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
