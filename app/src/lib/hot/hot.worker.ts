import 'reflect-metadata';
import { expose } from 'comlink';
import { adviseTacks, watchSeam } from '$core/hot/watch';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { planOf } from '$core/reading/readPlan';
import { guarded, percents } from '$lib/in-worker';
import type { HotApi } from './protocol';

const kernel = kernelFactory(WebAssembly);
const SORRY = 'Watching this seam failed. Undo the last change, or send the job file to whoever looks after Sarta.';

const api: HotApi = {
	watch: (plan, joint, change, share) => guarded(() => watchSeam(planOf(plan), joint, change, { kernel, onShare: percents(share) }), SORRY),
	tacks: (plan, joint, tell, share) =>
		guarded(() => {
			adviseTacks(planOf(plan), joint, tell, { kernel, onShare: percents(share) });
			return null;
		}, SORRY)
};

expose(api);
