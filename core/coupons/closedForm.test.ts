/** Handbook values of coupons against the handbook, worked by hand. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { arcEnergy } from '../heat/arcEnergy';
import { findMaterial } from '../materials/grades';
import { closedFormOf } from './closedForm';
import { couponPlan, type CouponKind } from './coupons';

const coupon = (kind: CouponKind, thicknessMm = 1.5, material = '1.4301') => couponPlan({ kind, material, thicknessMm });
const said = (plan: PlanDocument, id: string) =>
	closedFormOf(
		plan,
		plan.features.find((f) => f.id === id)!
	);
const pull = (plan: PlanDocument) => {
	const { eModulus, responsePair: r } = findMaterial(plan.parts[0].material);
	return ((0.3354 * eModulus * r.alpha) / r.rhoC) * arcEnergy(plan.settings[0]).netHeat;
};

describe('closed forms of coupons', () => {
	it('a thin angle of equal legs pulled along its corner bows out of each leg by 3 F L2 / 8 E t b2 (I = t b3 / 12 across its line of symmetry: thin-walled sections, Gere and Timoshenko, Mechanics of Materials)', () => {
		const plan = coupon('corner');
		const leg = Math.max(...plan.parts[0].outline.map((p) => p[1]));
		const length = Math.max(...plan.parts[0].outline.map((p) => p[0]));
		const byHand = (3 * pull(plan) * length ** 2) / (8 * findMaterial('1.4301').eModulus * 1.5 * leg ** 2);
		expect(said(plan, 'bow')!.value / byHand).toBeGreaterThan(0.999);
		expect(said(plan, 'bow')!.value / byHand).toBeLessThan(1.001);
	});
	it('a tee bows towards its web’s foot: F e L2 / 8 E I of two rectangles by the parallel axis theorem', () => {
		const plan = coupon('tee', 2);
		const [flange, web] = plan.parts.map((p) => Math.max(...p.outline.map((q) => q[1])));
		const [L, t] = [Math.max(...plan.parts[0].outline.map((p) => p[0])), 2];
		const e = (web * t * (web / 2)) / ((web + flange) * t);
		const inertia = (t * web ** 3) / 12 + web * t * (web / 2 - e) ** 2 + flange * t * e ** 2;
		const byHand = (pull(plan) * e * L ** 2) / (8 * findMaterial('1.4301').eModulus * inertia);
		// the flange's own t3 / 12 is left out in both
		expect(said(plan, 'edge')!.value / byHand).toBeCloseTo(1, 3);
	});
	it('a butt pair closes by alpha / rho c x q / t: half as far in twice the sheet under the same heat, and is not bowed by a pull in its middle', () => {
		const thin = coupon('butt', 1);
		const thick: PlanDocument = { ...coupon('butt', 2), settings: thin.settings };
		expect(said(thin, 'width')!.value / said(thick, 'width')!.value).toBeCloseTo(2, 9);
		expect(said(thin, 'width')!.value).toBeLessThan(0);
		expect(said(thin, 'bow-1')).toBeUndefined();
	});
	it('of a lap’s closing, an angle, flatness, and of what is welded all round no handbook speaks', () => {
		expect(said(coupon('tee'), 'lean-1')).toBeUndefined();
		expect(said(coupon('tee'), 'flat')).toBeUndefined();
		for (const f of coupon('tube-on-plate').features) expect(closedFormOf(coupon('tube-on-plate'), f)).toBeUndefined();
	});
});
