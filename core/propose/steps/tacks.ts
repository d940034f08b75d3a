/**
 * Which school of tacks, by what it does to the features and what it takes. None whose tacks lie too far apart to keep a gap: the quick
 * method knows nothing of what closes ahead of the arc.
 */
import type { PlanDocument, Tack } from '../../document/schema';
import { TACK_PATTERNS } from '../../document/words';
import { pathLength } from '../../geometry/polyline';
import { blocksOf } from '../../holds';
import { JOINTS } from '../../joints';
import { tacksDoNotApply, tackPattern } from '../../schools/tackPattern';
import { TACK_SCHOOLS, tackStart } from '../../schools/tacks';
import type { Decision } from '../decision';
import { decided } from '../decision';
import type { ProposalDesk } from '../desk';

/** mm between two tacks at most: fused edges that nothing stands under run out of line sooner than edges that are fed or lie on a bar (common practice, no source). */
const FARTHEST = { fused: 50, fed: 100 } as const;

/** Seams to be welded whose tacks do not lie too far apart. */
export function keepsGaps(plan: PlanDocument, tacks: readonly Tack[]): boolean {
	const barred = new Set(blocksOf(plan).flatMap((b) => (b.joint && !b.offsetMm ? [b.joint] : [])));
	return plan.joints
		.filter((j) => !j.stock)
		.every((j) => {
			const most = j.filler || barred.has(j.id) || !JOINTS[j.type].isEdgeToEdge ? FARTHEST.fed : FARTHEST.fused;
			const at = tacks.filter((t) => t.joint === j.id).map((t) => t.stationMm);
			const stations = [0, ...at.sort((p, q) => p - q), pathLength(j.a.path)];
			// both of its edges are somebody's: one tack alone holds no line
			return at.length > 1 && stations.every((s, i) => i === 0 || s - stations[i - 1] <= most + 1e-6);
		});
}

export function decideTacks(desk: ProposalDesk): void {
	const { plan } = desk;
	const now = desk.price(desk.weigh(plan));
	const tried: { decision: Decision; price: number }[] = [];
	for (const pattern of TACK_PATTERNS) {
		const rule = tackStart(pattern);
		if (desk.stopped) return;
		if (tacksDoNotApply(plan, rule)) continue;
		const tacks = tackPattern(plan, rule);
		// by the bars that lie there now: one that is proposed may be left
		if (!keepsGaps(desk.given, tacks)) continue;
		const { name, advice } = TACK_SCHOOLS[pattern];
		const decision: Decision = {
			id: `tacks-${pattern}`,
			kind: 'tacks',
			what: `Tacks: ${name.toLowerCase()}, ${tacks.length} in all`,
			why: `${advice} Of the schools that apply here it costs least, features and minutes together.`,
			change: { tacks: { rule, tacks } }
		};
		tried.push({ decision, price: desk.price(desk.weigh(decided(plan, [decision]))) });
	}
	const [best] = tried.sort((p, q) => p.price - q.price);
	if (best && (!plan.tacks.length || best.price < now)) desk.add(best.decision);
}
