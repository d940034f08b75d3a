/** Coupons in the computing thread: what is in doubt on the open jobs, and which coupon would narrow it. */
import type { Coupon, CouponAsk } from '$core/coupons/coupons';
import { doubtsOf } from '$core/coupons/doubts';
import { narrowed, worthOf, type InDoubt, type Narrowed } from '$core/coupons/worth';
import { contextOf } from '$core/learn/context';
import { learnShop, type Evidence } from '$core/learn/shop';
import type { OpenJob, Proposed } from './compute';

function doubtsOfJobs(jobs: readonly OpenJob[], evidence: readonly Evidence[]): InDoubt[] {
	const { asked } = learnShop(
		evidence,
		jobs.map((j) => contextOf(j.plan))
	);
	return jobs.flatMap((j, i) => doubtsOf(j.name, j.plan, j.said, asked[i]));
}

export function couponsNext(
	jobs: readonly OpenJob[],
	made: readonly { job: string; ask: CouponAsk; coupon: Coupon }[],
	evidence: readonly Evidence[]
): Proposed[] {
	const worth = worthOf(
		made.map((m) => m.coupon),
		doubtsOfJobs(jobs, evidence),
		evidence
	);
	return worth.map(({ coupon, ...rest }) => {
		const { job, ask } = made.find((m) => m.coupon === coupon)!;
		const { plan: _plan, sensitivities: _said, ...about } = coupon;
		return { ...rest, ...about, material: ask.material, thicknessMm: ask.thicknessMm, job };
	});
}

export const narrowedBy = (jobs: readonly OpenJob[], without: readonly Evidence[], withIt: readonly Evidence[]): Narrowed[] =>
	narrowed(doubtsOfJobs(jobs, without), without, withIt);
