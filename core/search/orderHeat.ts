/**
 * When each run of an order starts and how warm it finds its metal: sums of what each run's heat alone does (heat is linear
 * here), so an order costs no new solution. A screening of the schedule: the table's finalists take the true one.
 */
import { RESPONSE_RATIO, runResponses, type RunResponses } from '../heat/assembly';
import type { Analysis } from '../forecast/analysis';
import { FLIP_S } from '../estimate/estimate';
import { BETWEEN_RUNS_S, heatProblem } from '../forecast/schedule';

/** Longest wait, s: as in the schedule. */
const LONGEST_WAIT_S = 14_400;

const LOG_RATIO = Math.log(RESPONSE_RATIO);

export interface OrderTimes {
	/** by place in the order: rise over the air before the arc, K, hottest and mean of the run's places */
	hottest: Float64Array;
	mean: Float64Array;
	waitS: number;
	totalS: number;
}

export class OrderHeat {
	private readonly responses: RunResponses;
	private readonly arcS: Float64Array;
	private readonly fixed: (number | undefined)[];
	private readonly limit: number;
	/** factor on a run's force per K of mean rise, from the forecast with the heat of earlier runs in it */
	readonly forcePerK: Float64Array;

	constructor(a: Analysis, warm: Analysis | undefined, progress: (share: number) => void) {
		const { solver, runs } = heatProblem(a.plan, a.mesh);
		this.responses = runResponses(solver, runs, progress);
		this.arcS = Float64Array.from(runs, (r) => r.arcS);
		this.fixed = runs.map((r) => r.waitS);
		this.limit = a.plan.interpassLimitC - a.plan.ambientC;
		this.forcePerK = new Float64Array(runs.length);
		if (warm) this.learnForce(a, warm);
	}

	/** Least squares through zero: how much less (or more) a run pulls per K that it finds. */
	private learnForce(a: Analysis, warm: Analysis) {
		const index = new Map(a.plan.runs.map((r, i) => [r.id, i]));
		const order = a.plan.runs.map((_, i) => i);
		const { mean } = this.times(
			order,
			order.map(() => false)
		);
		for (const entry of warm.responses) {
			let [xy, xx] = [0, 0];
			for (const [id, factor] of entry.runs) {
				const rise = mean[index.get(id)!];
				xy += (1 - factor) * rise;
				xx += rise * rise;
			}
			if (xx > 0) for (const id of entry.runs.keys()) this.forcePerK[index.get(id)!] = xy / xx;
		}
	}

	private rise(table: Float32Array, to: number, after: number): number {
		const { times } = this.responses;
		const n = times.length;
		let k = after < 5 ? 0 : 1 + Math.floor(Math.log(after / 5) / LOG_RATIO);
		if (k >= n - 1) return table[to * n + n - 1];
		if (times[k + 1] <= after && k + 1 < n - 1) k++;
		const f = (after - times[k]) / (times[k + 1] - times[k]);
		return table[to * n + k] * (1 - f) + table[to * n + k + 1] * f;
	}

	/** @param order indices of runs @param flip whether the piece is turned before a place in the order */
	times(order: readonly number[], flip: readonly boolean[]): OrderTimes {
		const n = order.length;
		const out: OrderTimes = { hottest: new Float64Array(n), mean: new Float64Array(n), waitS: 0, totalS: 0 };
		const ends = new Float64Array(n);
		let now = 0;
		for (let k = 0; k < n; k++) {
			const run = order[k];
			const at = (which: 'hottest' | 'mean', t: number) => {
				let s = 0;
				for (let q = 0; q < k; q++) s += this.rise(this.responses[which][order[q]], run, t - ends[q]);
				return s;
			};
			if (k > 0) now += BETWEEN_RUNS_S + (flip[k] ? FLIP_S : 0);
			const before = now;
			const wait = this.fixed[run];
			if (wait !== undefined) now += wait;
			else for (let dt = 1; at('hottest', now) > this.limit && now - before < LONGEST_WAIT_S; dt = Math.min(60, dt * 1.2)) now += dt;
			out.waitS += now - before;
			out.hottest[k] = at('hottest', now);
			out.mean[k] = at('mean', now);
			now += this.arcS[run];
			ends[k] = now;
		}
		out.totalS = now;
		return out;
	}

	/** Factors on the tendon forces of an order. */
	forces(order: readonly number[], t: OrderTimes): Float64Array {
		return Float64Array.from(order, (run, k) => Math.max(0, 1 - this.forcePerK[run] * t.mean[k]));
	}
}
