import 'reflect-metadata';
import { expose } from 'comlink';
import { adviseTacks, watchSeam } from '$core/hot/watch';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { isRefusal } from '$core/refusal/refusal';
import type { HotApi, Outcome } from './protocol';

const kernel = kernelFactory(WebAssembly);

function guarded<T>(work: () => T): Outcome<T> {
	try {
		return { ok: true, data: work() };
	} catch (e) {
		if (isRefusal(e)) return { ok: false, message: e.message };
		console.error(e);
		return { ok: false, message: 'Watching this seam failed. Undo the last change, or send the job file to whoever looks after Sarta.' };
	}
}

const api: HotApi = {
	watch: (plan, joint, change, share) => guarded(() => watchSeam(plan, joint, change, { kernel, onShare: percents(share) })),
	tacks: (plan, joint, tell, share) =>
		guarded(() => {
			adviseTacks(plan, joint, tell, { kernel, onShare: percents(share) });
			return null;
		})
};

/** A message each percent is plenty. */
function percents(share: (p: number) => void) {
	let told = -1;
	return (p: number) => {
		if (Math.floor(p * 100) <= told) return;
		told = Math.floor(p * 100);
		share(p);
	};
}

expose(api);
