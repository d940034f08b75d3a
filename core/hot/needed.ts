/** Whether a plan is one that the shallower depths speak badly of, for what the arc does while it passes: why, seam by seam. */
import type { Joint, PlanDocument } from '../document/schema';
import { isClosed, pathLength } from '../geometry/polyline';

/** mm of seam to each tack above which the edges are thought to move ahead of the arc (common practice, no source). */
const FEW_TACKS_MM = 75;
/** Shorter than this the ends are most of the seam, mm. */
const SHORT_MM = 150;
/** A gap above this share of the thinner sheet moves the edges before it is filled. */
const GAP_SHARE = 0.1;

const REASONS = { tacks: 'few tacks', short: 'a short seam', gap: 'a gap', order: 'stepped or skipped runs' } as const;

export interface Needed {
	joint: string;
	reason: keyof typeof REASONS;
	words: string;
}

/** Seams for which the hot depth says what the others cannot; empty where they say enough. */
export function needsHot(plan: PlanDocument): Needed[] {
	return plan.joints.flatMap((joint) => {
		const reason = reasonOf(plan, joint);
		return reason ? [{ joint: joint.id, reason, words: REASONS[reason] }] : [];
	});
}

function reasonOf(plan: PlanDocument, joint: Joint): Needed['reason'] | undefined {
	const runs = plan.runs.filter((r) => r.joint === joint.id && r.pass === 1);
	if (!runs.length) return undefined;
	const length = pathLength(joint.a.path);
	const tacks = plan.tacks.filter((t) => t.joint === joint.id).length;
	const bays = isClosed(joint.a.path) ? tacks : tacks - 1;
	if (bays < 1 || length / bays > FEW_TACKS_MM) return 'tacks';
	if (length < SHORT_MM) return 'short';
	const thin = Math.min(...[joint.a, joint.b].map((s) => plan.parts.find((p) => p.id === s.part)!.thicknessMm));
	if (joint.gapMm > GAP_SHARE * thin) return 'gap';
	if (runs.length > 1 && !isOneAfterAnother(runs)) return 'order';
	return undefined;
}

/** Every run goes on where the one before ended. */
const isOneAfterAnother = (runs: readonly { fromMm: number; toMm: number }[]) =>
	runs.every((r, i) => i === 0 || Math.abs(r.fromMm - runs[i - 1].toMm) < 1);
