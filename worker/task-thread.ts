/** One task in a thread of its own. */
import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { parentPort, workerData } from 'node:worker_threads';
import { ForecastCache } from '../core/forecast/analysis';
import { forecast } from '../core/forecast/forecast';
import { fullForecast } from '../core/forecast/fullForecast';
import type { SaidStore } from '../core/hot/factors';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { planOf } from '../core/reading/readPlan';
import { propose } from '../core/propose/propose';
import { adviseHolds } from '../core/search/levers';
import { replan, withoutPlans } from '../core/search/replan';
import { solvePresets } from '../core/search/presets';
import { searchOrders } from '../core/search/tableSearch';
import { whereItStands } from '../core/weldout/logbook';
import type { FullResult, ThreadAnswer, ThreadInput } from './protocol';
import { isRefusal, Refusal } from '$core/refusal/refusal';

/** Between two words to the worker, ms: it beats once a second. */
const TELL_MS = 400;

const { kind, input, stop, answers } = workerData as ThreadInput;
const plan = planOf(input.plan);
const { factors } = input;
const kernel = kernelFactory(WebAssembly);
const flag = new Int32Array(stop);
const isStopped = () => Atomics.load(flag, 0) !== 0;
const clock = () => performance.now();
const say = (m: ThreadAnswer) => parentPort!.postMessage(m);
let told = -TELL_MS;
const tell = (share: number, partial?: unknown) => {
	if (clock() - told < TELL_MS) return;
	told = clock();
	say({ kind: 'progress', share, partial });
};

/** What other jobs have found of such a seam, and what is found here for the next. */
const hotAnswers: SaidStore = {
	get: (key) => answers?.[digest(key)],
	put: (key, said) => say({ kind: 'watched', key: digest(key), said })
};
const digest = (key: string) => createHash('sha256').update(key).digest('hex');

function full(): FullResult {
	const base64 = (v: Float32Array) => Buffer.from(v.buffer, v.byteOffset, v.byteLength).toString('base64');
	const quick = forecast(plan, { factors, clock, cache: new ForecastCache(kernel), progress: (p) => tell(0.05 * p) });
	quick.heat();
	const f = fullForecast(quick, { factors, clock, progress: (p) => tell(0.05 + 0.95 * p) });
	return { result: f.result, steps: f.steps.map(base64), other: f.other && base64(f.other) };
}

function work(): unknown {
	const { ask, piece } = input;
	if (kind === 'full-forecast') return full();
	if (!ask) throw new Refusal('This task does not say what is asked');
	const phases = (phase: string, share: number) => tell(share, { phase });
	switch (kind) {
		case 'replan': {
			if (!piece) throw new Refusal('This task does not say of which piece');
			const at = whereItStands(piece.steps, piece.lines);
			return replan(plan, at, piece.readings, {
				goals: ask.goals,
				factors,
				kernel,
				stop: isStopped,
				tell: (phase, share, soFar) => tell(share, { phase, soFar: soFar && withoutPlans(soFar) })
			});
		}
		case 'order-search':
			return searchOrders(plan, ask.goals, {
				factors,
				kernel,
				full: ask.full,
				hotAnswers,
				runLengthMm: ask.runLengthMm,
				stop: isStopped,
				tell: (p) => tell(p.share, p)
			});
		case 'hold-advice':
			return adviseHolds(plan, ask.goals, { factors, kernel, stop: isStopped, tell: phases });
		case 'proposal':
			return propose(plan, { goals: ask.goals, factors, kernel, stock: input.stock, stop: isStopped, tell: (share, soFar) => tell(share, soFar) });
		case 'presets':
			return solvePresets(plan, ask.goals, { factors, kernel, stop: isStopped, final: true, tell: phases });
	}
}

try {
	say({ kind: 'done', result: work(), stopped: isStopped() });
} catch (e) {
	// a model that cannot be solved is a refusal in the planner's words; anything else is a fault and ends the thread
	if (!isRefusal(e)) throw e;
	say({ kind: 'refused', message: e.message });
}
