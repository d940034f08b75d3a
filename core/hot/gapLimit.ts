/** How far edges may part ahead of an arc. */
import type { PlanDocument } from '../document/schema';
import { settingsOf } from '../forecast/schedule';
import type { HotSeam } from './seam';

/** A gap ahead of the arc above this share of the sheet is trouble for a fused seam (common practice, no source). */
const GAP_SHARE = 0.1;

/**
 * mm between the edges that are too many: fused, what was planned and a tenth of the thinner sheet; with filler fed in, as much as the wire
 * is thick, where that is more (both common practice, no source).
 */
export function gapLimitOf(plan: PlanDocument, joint: string, seam: HotSeam): number {
	const fused = GAP_SHARE * Math.min(...seam.sheets.map((q) => q.thicknessMm)) + seam.gapMm;
	const isFed = plan.joints.find((j) => j.id === joint)!.filler;
	const first = plan.runs.find((r) => r.joint === joint);
	const wireMm = isFed && first ? (settingsOf(plan, first).fillerMm ?? 0) : 0;
	return Math.max(fused, wireMm);
}
