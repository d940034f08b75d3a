/** What coupons have pulled by, taken for a joint of the same kind in the same sheet, and set over against. */
import { describe, expect, it } from 'vitest';
import { forecast } from '../forecast/forecast';
import { couponPlan } from './coupons';
import { DIFFERENCE } from './differences';
import { jointHere, presetAgainst, pulledOnCoupons, readOf, type CouponRead, type JointHere } from './evidence';

const plan = couponPlan({ kind: 'butt', material: '1.4301', thicknessMm: 1.5 });
const [joint] = plan.joints;
const here = jointHere(plan, joint);
const read = (value: number, over: Partial<JointHere> = {}): CouponRead => ({
	piece: `p${value}`,
	kind: 'angle',
	value,
	uncertainty90: 0.2,
	of: { ...here, ...over }
});

describe('presets from coupons', () => {
	it('three that pulled 3.0, 3.1 and 3.2°: 3.1 ± 0.2, by hand with t = 2.92 (tables) and the protractor’s own doubt', () => {
		const p = pulledOnCoupons(plan, joint, [read(-3), read(-3.1), read(-3.2)], 'angle')!;
		expect(p.mean).toBeCloseTo(-3.1, 12);
		expect(p.half).toBeCloseTo(Math.hypot((2.92 * 0.1) / Math.sqrt(3), 0.2 / Math.sqrt(3)), 3);
		expect(presetAgainst(p, joint)).toBe(3);
	});
	it('one coupon: the instrument’s doubt alone', () => {
		expect(pulledOnCoupons(plan, joint, [read(-1.6)], 'angle')!.half).toBeCloseTo(0.2, 12);
	});
	it('another metal, another sheet, another joint, a bar where there is none: nothing', () => {
		for (const over of [
			{ material: '1.4404' },
			{ thicknessMm: 2 },
			{ type: 'tee' },
			{ isOnBar: true },
			{ isClamped: true },
			{ netHeat: 1.3 * here.netHeat }
		] as const)
			expect(pulledOnCoupons(plan, joint, [read(-3, over)], 'angle')).toBeUndefined();
		expect(pulledOnCoupons(plan, joint, [read(-3)], 'length')).toBeUndefined();
	});
	it('a joint on a bar takes the coupons on a bar, and those alone', () => {
		const onBar = couponPlan({ kind: 'butt-on-bar', material: '1.4301', thicknessMm: 1.5 });
		expect(pulledOnCoupons(onBar, onBar.joints[0], [read(-3), read(-1, { isOnBar: true })], 'angle')!.mean).toBe(-1);
	});
	it('what a coupon is of follows from its plan, not from its name: a butt pair that a trial put on a bar is on one', () => {
		const angle = plan.features.find((f) => f.kind === 'angle')!.id;
		expect(readOf(plan, angle)).toEqual({ kind: 'angle', of: here });
		expect(readOf(DIFFERENCE.bar.change(plan, 'copper'), angle)!.of.isOnBar).toBe(true);
		expect(readOf(DIFFERENCE.clamp.change(plan, 'clamped'), angle)!.of.isClamped).toBe(true);
		expect(readOf(plan, plan.features.find((f) => f.kind === 'flatness')!.id)).toBeUndefined();
		// its twenty seams pull at once
		const mitre = couponPlan({ kind: 'mitre', material: '1.4301', thicknessMm: 1.5 });
		expect(readOf(mitre, mitre.features.find((f) => f.kind === 'length')!.id)).toBeUndefined();
	});
	it('what is not surely anything is not set against, and nothing is set over by more than thin sheet is', () => {
		expect(presetAgainst({ count: 2, mean: 0.1, half: 0.3, pieces: [] }, joint)).toBe(0);
		expect(presetAgainst({ count: 2, mean: -30, half: 0.3, pieces: [] }, joint)).toBe(8);
	});
	it.each(['butt', 'lap', 'tee', 'corner'] as const)(
		'set over by what it pulls, a %s comes out true by the forecast: the sign is the right one',
		(kind) => {
			const made = couponPlan({ kind, material: '1.4301', thicknessMm: 1.5 });
			const at = made.features.findIndex((f) => f.kind === 'angle');
			const with_ = (deg: number) => forecast({ ...made, joints: made.joints.map((j) => ({ ...j, presetDeg: deg })) }).result.features[at].predicted;
			const pulled = with_(0);
			expect(Math.abs(pulled)).toBeGreaterThan(0.3);
			const deg = presetAgainst(
				{ count: 3, mean: pulled, half: 0.1, pieces: [] },
				made.joints.find((j) => !j.stock)!
			);
			// it is set in quarters of a degree
			expect(Math.abs(with_(deg))).toBeLessThan(0.125 + 0.15 * Math.abs(pulled));
		}
	);
});
