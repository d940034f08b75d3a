/** The coupons: one butt of two 60 x 120 sheets and what is changed about it, one thing at a time, and a tee. */
import { COUPON_METAL } from '$core/response/couponMetal';
import type { Coupon } from './coupon';

const butt: Omit<Coupon, 'id' | 'title'> = {
	length: 120,
	width: 60,
	thickness: 1.5,
	heat: 160,
	speed: 2.5,
	runs: [{ from: 9, to: 111 }],
	wait: 0,
	metal: COUPON_METAL,
	hardening: 2000,
	hardensTo: 1,
	isHeldFlat: false
};

/** Both flanges and the web have to be there: shorter, or it takes the solver half a day. */
const shortTee = { length: 90, width: 50, runs: [{ from: 9, to: 81 }] };

export const COUPONS: readonly Coupon[] = [
	{ ...butt, id: 'free', title: 'free to bow' },
	{ ...butt, id: 'flat', title: 'held flat', isHeldFlat: true },
	{ ...butt, id: 'free-capped', title: 'free, hardening up to 2 %', hardensTo: 0.02 },
	{ ...butt, id: 'flat-capped', title: 'held flat, hardening up to 2 %', isHeldFlat: true, hardensTo: 0.02 },
	{ ...butt, id: 'free-hot', title: 'free, 1.25 times the heat', heat: 200 },
	{ ...butt, id: 'flat-hot', title: 'held flat, 1.25 times the heat', isHeldFlat: true, heat: 200 },
	{ ...butt, id: 'bar', title: 'held flat on a bar at 20 °C', isHeldFlat: true, bar: { contact: 2000e-6, reach: 20 } },
	{
		...butt,
		id: 'back-step',
		title: 'free, back-stepped in three runs with 30 s between',
		runs: [
			{ from: 43, to: 9 },
			{ from: 77, to: 43 },
			{ from: 111, to: 77 }
		],
		wait: 30
	},
	{ ...butt, id: 'thick', title: 'free, 2 mm sheet', thickness: 2 },
	{ ...butt, id: 'fast', title: 'free, twice the speed with 132 J/mm', speed: 5, heat: 132 },
	{ ...butt, id: 'corner', title: 'a corner of two such sheets, edge to edge, free to bend', isCorner: true },
	{ ...butt, id: 'corner-cool', title: 'such a corner with three quarters of the heat', isCorner: true, heat: 118 },
	{ ...butt, id: 'corner-box', title: 'such a corner, its far edges held as in a box', isCorner: true, isBox: true },
	{ ...butt, id: 'tee', title: 'tee welded on one side, leg 2 mm', ...shortTee, tee: { height: 40, leg: 2 } },
	{ ...butt, id: 'tee-leg', title: 'tee welded on one side, leg 4 mm', ...shortTee, tee: { height: 40, leg: 4 } }
];
