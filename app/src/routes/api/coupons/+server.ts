import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { makeCoupon } from '$lib/server/coupons';
import { CouponBody } from '$lib/server/dto';

/** Makes a coupon: a job of one piece, planned and issued. */
export const POST = (event) =>
	answer(async () => json({ job: await makeCoupon(await readBody(event.request, CouponBody), personOf(event).id) }, { status: 201 }));
