import 'reflect-metadata';
import { expose } from 'comlink';
import type { PlanDocument } from '$core/document/schema';
import { ForecastCache } from '$core/forecast/cache';
import { forecast } from '$core/forecast/forecast';
import { aroundOf, type Around } from '$core/hot/around';
import { adviseTacks, watchSeam } from '$core/hot/watch';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { planOf } from '$core/reading/readPlan';
import { isRefusal } from '$core/refusal/refusal';
import { guarded, percents } from '$lib/in-worker';
import type { HotApi } from './protocol';

const kernel = kernelFactory(WebAssembly);
const SORRY = 'Watching this seam failed. Undo the last change, or send the job file to whoever looks after Sarta.';

const cache = new ForecastCache(kernel);

/** How the piece holds its seams; a piece that cannot be forecast yet leaves them free, and the film says so. */
function around(plan: PlanDocument): Around | undefined {
	try {
		return aroundOf(forecast(plan, { cache }));
	} catch (e) {
		if (isRefusal(e)) return undefined;
		throw e;
	}
}

const api: HotApi = {
	watch: (raw, joint, change, share) =>
		guarded(() => {
			const plan = planOf(raw);
			return watchSeam(plan, joint, change, { kernel, around: around(plan), onShare: percents(share) });
		}, SORRY),
	tacks: (raw, joint, tell, share) =>
		guarded(() => {
			const plan = planOf(raw);
			adviseTacks(plan, joint, tell, { kernel, around: around(plan), onShare: percents(share) });
			return null;
		}, SORRY)
};

expose(api);
