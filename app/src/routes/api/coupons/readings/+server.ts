import { json } from '@sveltejs/kit';
import type { CouponRead } from '$core/coupons/evidence';
import { answer } from '$lib/server/api';
import { couponReadings } from '$store/bench';
import { getDb } from '$store/database';

/** What the shop's coupons have been read at: angles of their joint, and how far their sheets closed; of each piece the last reading. */
export const GET = () =>
	answer(async () => {
		const last = new Map<string, CouponRead>();
		for (const { coupon, plan, feature, piece, value, uncertainty90 } of await couponReadings(getDb())) {
			const kind = plan.features.find((f) => f.id === feature)?.kind;
			if (!coupon || (kind !== 'angle' && kind !== 'length')) continue;
			const { material, thicknessMm } = plan.parts[0];
			last.set(`${piece}/${feature}`, { coupon, piece, material, thicknessMm, kind, value, uncertainty90 });
		}
		return json({ readings: [...last.values()] });
	});
