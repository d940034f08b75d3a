/** Which runs of other jobs fit into the cooling waits of this one. */
import { BETWEEN_RUNS_S } from '../forecast/schedule';

export interface OtherPiece {
	label: string;
	/** what may be laid next, in order: a later run never goes before an earlier one */
	runs: { name: string; arcS: number }[];
}
export interface FilledWait {
	/** number of the run that is waited for, from 1 */
	before: number;
	waitS: number;
	fits: { piece: string; run: string; takesS: number }[];
	leftS: number;
}

/** Waits shorter than this are not worth walking over to another bench, s. */
const SHORTEST_S = 60;
/** There and back, helmet and torch (own estimate), s. */
export const CHANGE_S = 20;

/** @param waits s before each run, in order. Takes whole runs, waits in their order, each run once. */
export function fillWaits(waits: readonly number[], others: readonly OtherPiece[]): FilledWait[] {
	const next = others.map(() => 0);
	return waits.flatMap((waitS, i) => {
		if (waitS < SHORTEST_S) return [];
		let left = waitS - CHANGE_S;
		const fits: FilledWait['fits'] = [];
		for (;;) {
			const k = others.findIndex((o, q) => next[q] < o.runs.length && o.runs[next[q]].arcS + BETWEEN_RUNS_S <= left);
			if (k < 0) break;
			const run = others[k].runs[next[k]++];
			const takesS = run.arcS + BETWEEN_RUNS_S;
			fits.push({ piece: others[k].label, run: run.name, takesS });
			left -= takesS;
		}
		return [{ before: i + 1, waitS, fits, leftS: Math.max(0, left) }];
	});
}
