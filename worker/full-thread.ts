/** One full forecast in a thread of its own. */
import 'reflect-metadata';
import { parentPort, workerData } from 'node:worker_threads';
import { ForecastCache } from '../core/forecast/analysis';
import { forecast } from '../core/forecast/forecast';
import { fullForecast } from '../core/forecast/fullForecast';
import type { ShopFactors } from '../core/learn/factors';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { planOf } from '../core/plan/read';
import type { FullAnswer } from './protocol';

const { plan, factors } = workerData as { plan: unknown; factors: ShopFactors };
const say = (m: FullAnswer) => parentPort!.postMessage(m);
const base64 = (v: Float32Array) => Buffer.from(v.buffer, v.byteOffset, v.byteLength).toString('base64');
let told = -1;
try {
	const clock = () => performance.now();
	const tell = (p: number) => {
		if (Math.floor(p * 200) <= told) return;
		told = Math.floor(p * 200);
		say({ kind: 'progress', share: p });
	};
	const quick = forecast(planOf(plan), { factors, clock, cache: new ForecastCache(kernelFactory(WebAssembly)), progress: (p) => tell(0.05 * p) });
	quick.heat();
	const full = fullForecast(quick, { factors, clock, progress: (p) => tell(0.05 + 0.95 * p) });
	say({ kind: 'done', result: { result: full.result, steps: full.steps.map(base64), other: full.other && base64(full.other) } });
} catch (e) {
	// a model that cannot be solved is a refusal in the planner's words; anything else is a fault and ends the thread
	if (!(e instanceof RangeError || (e instanceof Error && ['SingularError', 'FaultError'].includes(e.name)))) throw e;
	say({ kind: 'refused', message: (e as Error).message });
}
