import { json } from '@sveltejs/kit';
import { readOf, type CouponRead } from '$core/coupons/evidence';
import { answer } from '$lib/server/api';
import { couponReadings } from '$store/bench';
import { getDb } from '$store/database';

/** What the shop's coupons have been read at: angles of their joint, and how far their sheets closed; of each piece the last reading. */
export const GET = () =>
	answer(async () => {
		const last = new Map<string, CouponRead>();
		for (const { plan, feature, piece, value, uncertainty90 } of await couponReadings(getDb())) {
			const about = readOf(plan, feature);
			if (about) last.set(`${piece}/${feature}`, { ...about, piece, value, uncertainty90 });
		}
		return json({ readings: [...last.values()] });
	});
