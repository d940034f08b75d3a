/** What the shop's own coupons say a joint does, read and not forecast: by how much to set it over the other way. */
import { blocksOf } from '../holds';
import type { Joint, PlanDocument } from '../document/schema';
import type { JointType } from '../document/words';
import { Z90 } from '../factors/factors';
import { MOST_PRESET_DEG, STEP_DEG } from '../weldout/preset';
import { sampleOf } from '../trials/compare';
import jStat from 'jstat';
import type { CouponKind } from './coupons';

/** A coupon's reading, unclamped, as the welds alone have made it. */
export interface CouponRead {
	coupon: CouponKind;
	piece: string;
	material: string;
	thicknessMm: number;
	/** what the feature is: the angle of its one joint, or how far its sheets closed */
	kind: 'angle' | 'length';
	value: number;
	uncertainty90: number;
}

/** The joint that a coupon is of, and whether it lies on a bar. */
const OF: Partial<Record<CouponKind, { type: JointType; isOnBar: boolean }>> = {
	butt: { type: 'butt', isOnBar: false },
	'butt-on-bar': { type: 'butt', isOnBar: true },
	lap: { type: 'lap', isOnBar: false },
	tee: { type: 'tee', isOnBar: false }
};
/** Thicknesses within this share of one another count as the same sheet (own estimate). */
const SAME_SHEET = 0.1;

export interface Pulled {
	count: number;
	mean: number;
	/** half of its band at 90 %: the scatter of the coupons by Student's t, or the instrument's doubt where there is but one */
	half: number;
	pieces: string[];
}

/** Nothing where no coupon is of such a joint in such sheet. */
export function pulledOnCoupons(plan: PlanDocument, joint: Joint, read: readonly CouponRead[], kind: CouponRead['kind']): Pulled | undefined {
	const part = plan.parts.find((p) => p.id === joint.b.part) ?? plan.parts[0];
	const isOnBar = blocksOf(plan).some((b) => b.joint === joint.id);
	const own = read.filter((r) => {
		const of = OF[r.coupon];
		const isSame = Math.abs(r.thicknessMm / part.thicknessMm - 1) <= SAME_SHEET;
		return r.kind === kind && of?.type === joint.type && of.isOnBar === isOnBar && r.material === part.material && isSame;
	});
	if (!own.length) return undefined;
	const pieces = [...new Set(own.map((r) => r.piece))];
	const { mean, scatter, count } = sampleOf(own.map((r) => r.value));
	const reading = Math.max(...own.map((r) => r.uncertainty90)) / Z90 / Math.sqrt(count);
	// one coupon says nothing of how the next will lie
	const between = count > 1 ? (jStat.studentt.inv(0.95, count - 1) * scatter) / Math.sqrt(count) : 0;
	return { count, mean, half: Math.hypot(between, Z90 * reading), pieces };
}

/** Degrees to set a joint over, to what a person sets, no more than thin sheet is set over by; 0 where what it pulled is not surely anything. */
export function presetAgainst({ mean, half }: Pulled): number {
	if (Math.abs(mean) <= half) return 0;
	const deg = Math.round(-mean / STEP_DEG) * STEP_DEG;
	return Math.sign(deg) * Math.min(MOST_PRESET_DEG, Math.abs(deg)) || 0;
}
