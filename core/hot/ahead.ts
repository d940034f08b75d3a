/** What the welder is told of a run before its arc: how far the edges will part ahead of it, and where, so that they are wedged or tacked first. */
import type { QuickForecast } from '../forecast/forecast';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { isRefusal } from '../refusal/refusal';
import { aroundOf } from './around';
import { HotMemory, roundedSeam } from './factors';
import { needsHot } from './needed';
import { hotSeamOf } from './ofPlan';
import { runsOf } from './results';
import { gapLimitOf } from './gapLimit';

export interface Ahead {
	/** mm, between the edges, and where the arc then stands */
	gapMm: number;
	arcMm: number;
}

/** Seams are watched up to so much of them together, mm: the bench waits for an answer, and a long one takes half a minute. */
const MOST_MM = 1500;

/**
 * By run: only those ahead of which the edges part by more than is well fused. Seams that are tacked closely and fit are not worked
 * out: their edges cannot part; nor are those that cannot be laid flat, nor what comes after the first metre and a half.
 */
export function gapsAhead(quick: QuickForecast, kernel?: KernelFactory): Record<string, Ahead> {
	const { plan } = quick.analysis;
	const around = aroundOf(quick);
	const memory = new HotMemory(kernel);
	const out: Record<string, Ahead> = {};
	let watched = 0;
	for (const { joint, reason } of needsHot(plan)) {
		if (reason !== 'tacks' && reason !== 'gap') continue;
		try {
			const seam = roundedSeam(hotSeamOf(plan, joint, {}, { around }).seam);
			watched += seam.lengthMm;
			if (watched > MOST_MM) break;
			const results = runsOf(memory.march(seam));
			plan.runs
				.filter((r) => r.joint === joint)
				.forEach((r, i) => {
					if (results[i].gapAheadMm > gapLimitOf(plan, joint, seam)) out[r.id] = { gapMm: results[i].gapAheadMm, arcMm: results[i].gapAheadAtMm };
				});
		} catch (e) {
			if (!isRefusal(e)) throw e;
		}
	}
	return out;
}
