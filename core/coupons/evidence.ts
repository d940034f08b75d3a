/** What the shop's own coupons say a joint does, read and not forecast: by how much to set it over the other way. */
import { blocksOf } from '../holds';
import type { Joint, PlanDocument } from '../document/schema';
import type { JointType } from '../document/words';
import { Z90 } from '../factors/factors';
import { arcEnergy } from '../heat/arcEnergy';
import { isWeldedOutside } from '../joints';
import { MOST_PRESET_DEG, STEP_DEG } from '../weldout/preset';
import { sampleOf } from '../trials/compare';
import jStat from 'jstat';

/** A coupon's reading, unclamped, as the welds alone have made it, and what it is a reading of. */
export interface CouponRead {
	piece: string;
	/** what the feature is: the angle of its one joint, or how far its sheets closed */
	kind: 'angle' | 'length';
	value: number;
	uncertainty90: number;
	of: JointHere;
}

/** A joint as it is welded, as far as what it pulls hangs on it. */
export interface JointHere {
	type: JointType;
	/** of a corner: it is welded from outside */
	isOutside: boolean;
	material: string;
	thicknessMm: number;
	isOnBar: boolean;
	isClamped: boolean;
	/** J/mm */
	netHeat: number;
}

export function jointHere(plan: PlanDocument, joint: Joint): JointHere {
	const part = plan.parts.find((p) => p.id === joint.b.part) ?? plan.parts[0];
	const settings = plan.settings.find((s) => s.id === joint.settings) ?? plan.settings[0];
	return {
		type: joint.type,
		isOutside: isWeldedOutside(joint),
		material: part.material,
		thicknessMm: part.thicknessMm,
		isOnBar: blocksOf(plan).some((b) => b.joint === joint.id),
		isClamped: plan.holdDowns.some((h) => h.kind === 'clamp' && h.joint === joint.id),
		netHeat: arcEnergy(settings).netHeat
	};
}

/** Of a coupon with one welded seam; of others nothing can be said joint by joint. */
export function readOf(plan: PlanDocument, feature: string): Pick<CouponRead, 'kind' | 'of'> | undefined {
	const kind = plan.features.find((f) => f.id === feature)?.kind;
	const welded = plan.joints.filter((j) => !j.stock);
	if (welded.length !== 1 || (kind !== 'angle' && kind !== 'length')) return undefined;
	return { kind, of: jointHere(plan, welded[0]) };
}

/** Thicknesses within this share of one another count as the same sheet, heats within that share as the same heat (own estimates). */
const SAME_SHEET = 0.1;
const SAME_HEAT = 0.15;
const within = (a: number, b: number, share: number) => Math.abs(a / b - 1) <= share;
const isSame = (a: JointHere, b: JointHere) =>
	a.type === b.type &&
	a.isOutside === b.isOutside &&
	a.material === b.material &&
	a.isOnBar === b.isOnBar &&
	a.isClamped === b.isClamped &&
	within(a.thicknessMm, b.thicknessMm, SAME_SHEET) &&
	within(a.netHeat, b.netHeat, SAME_HEAT);

export interface Pulled {
	count: number;
	mean: number;
	/** half of its band at 90 %: the scatter of the coupons by Student's t, or the instrument's doubt where there is but one */
	half: number;
	pieces: string[];
}

/** Nothing where no coupon is of such a joint in such sheet. */
export function pulledOnCoupons(plan: PlanDocument, joint: Joint, read: readonly CouponRead[], kind: CouponRead['kind']): Pulled | undefined {
	const here = jointHere(plan, joint);
	const own = read.filter((r) => r.kind === kind && isSame(r.of, here));
	if (!own.length) return undefined;
	const pieces = [...new Set(own.map((r) => r.piece))];
	const { mean, scatter, count } = sampleOf(own.map((r) => r.value));
	const reading = Math.max(...own.map((r) => r.uncertainty90)) / Z90 / Math.sqrt(count);
	// one coupon says nothing of how the next will lie
	const between = count > 1 ? (jStat.studentt.inv(0.95, count - 1) * scatter) / Math.sqrt(count) : 0;
	return { count, mean, half: Math.hypot(between, Z90 * reading), pieces };
}

/** Degrees to set a joint over against what its coupons turned, to what a person sets, no more than thin sheet is set over by; 0 where what it pulled is not surely anything. */
export function presetAgainst({ mean, half }: Pulled, joint: Pick<Joint, 'type' | 'weldSide'>): number {
	if (Math.abs(mean) <= half) return 0;
	// read inside the fold: what opens there has closed on the outside
	const towardsWeld = isWeldedOutside(joint) ? mean : -mean;
	const deg = Math.round(towardsWeld / STEP_DEG) * STEP_DEG;
	return Math.sign(deg) * Math.min(MOST_PRESET_DEG, Math.abs(deg)) || 0;
}
