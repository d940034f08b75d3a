/** What every worker of the page does with its answers: a refusal is told in its own words, a fault in ours; progress a message a percent. */
import { isRefusal } from '$core/refusal/refusal';

export type Outcome<T> = { ok: true; data: T } | { ok: false; message: string };

/** @param sorry said where the work failed by a fault of the program */
export function guarded<T>(work: () => T, sorry: string): Outcome<T> {
	try {
		return { ok: true, data: work() };
	} catch (e) {
		if (isRefusal(e)) return { ok: false, message: e.message };
		console.error(e);
		return { ok: false, message: sorry };
	}
}

/** A message each percent is plenty. */
export function percents(progress: (share: number) => void) {
	let told = -1;
	return (p: number) => {
		if (Math.floor(p * 100) <= told) return;
		told = Math.floor(p * 100);
		progress(p);
	};
}
