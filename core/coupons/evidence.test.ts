/** What coupons have pulled by, taken for a joint of the same kind in the same sheet, and set over against. */
import { describe, expect, it } from 'vitest';
import { forecast } from '../forecast/forecast';
import { couponPlan } from './coupons';
import { presetAgainst, pulledOnCoupons, type CouponRead } from './evidence';

const plan = couponPlan({ kind: 'butt', material: '1.4301', thicknessMm: 1.5 });
const [joint] = plan.joints;
const read = (value: number, over: Partial<CouponRead> = {}): CouponRead => ({
	coupon: 'butt',
	piece: `p${value}`,
	material: '1.4301',
	thicknessMm: 1.5,
	kind: 'angle',
	value,
	uncertainty90: 0.2,
	...over
});

describe('presets from coupons', () => {
	it('three that pulled 3.0, 3.1 and 3.2°: 3.1 ± 0.2, by hand with t = 2.92 (tables) and the protractor’s own doubt', () => {
		const p = pulledOnCoupons(plan, joint, [read(-3), read(-3.1), read(-3.2)], 'angle')!;
		expect(p.mean).toBeCloseTo(-3.1, 12);
		expect(p.half).toBeCloseTo(Math.hypot((2.92 * 0.1) / Math.sqrt(3), 0.2 / Math.sqrt(3)), 3);
		expect(presetAgainst(p)).toBe(3);
	});
	it('one coupon: the instrument’s doubt alone', () => {
		expect(pulledOnCoupons(plan, joint, [read(-1.6)], 'angle')!.half).toBeCloseTo(0.2, 12);
	});
	it('another metal, another sheet, another joint, a bar where there is none: nothing', () => {
		for (const over of [{ material: '1.4404' }, { thicknessMm: 2 }, { coupon: 'tee' }, { coupon: 'butt-on-bar' }] as const)
			expect(pulledOnCoupons(plan, joint, [read(-3, over)], 'angle')).toBeUndefined();
		expect(pulledOnCoupons(plan, joint, [read(-3)], 'length')).toBeUndefined();
	});
	it('a joint on a bar takes the coupons on a bar, and those alone', () => {
		const onBar = couponPlan({ kind: 'butt-on-bar', material: '1.4301', thicknessMm: 1.5 });
		expect(pulledOnCoupons(onBar, onBar.joints[0], [read(-3), read(-1, { coupon: 'butt-on-bar' })], 'angle')!.mean).toBe(-1);
	});
	it('what is not surely anything is not set against, and nothing is set over by more than thin sheet is', () => {
		expect(presetAgainst({ count: 2, mean: 0.1, half: 0.3, pieces: [] })).toBe(0);
		expect(presetAgainst({ count: 2, mean: -30, half: 0.3, pieces: [] })).toBe(8);
	});
	it.each(['butt', 'lap', 'tee'] as const)('set over by what it pulls, a %s comes out true by the forecast: the sign is the right one', (kind) => {
		const made = couponPlan({ kind, material: '1.4301', thicknessMm: 1.5 });
		const at = made.features.findIndex((f) => f.kind === 'angle');
		const with_ = (deg: number) => forecast({ ...made, joints: made.joints.map((j) => ({ ...j, presetDeg: deg })) }).result.features[at].predicted;
		const pulled = with_(0);
		expect(Math.abs(pulled)).toBeGreaterThan(0.3);
		expect(Math.abs(with_(-pulled))).toBeLessThan(0.15 * Math.abs(pulled));
	});
});
