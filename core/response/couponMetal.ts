/** The metal that section and solid coupons are both made of, so that they can be held against one another: for checks, in no forecast. */
import { findMaterial } from '../materials/grades';
import { hotMetal, type HotMetal } from '../materials/hot';
import { interpolate } from '../materials/metals/tables';

const stainless = hotMetal(findMaterial('1.4301'));

/** Stainless with strength and stiffness by own tables that lie between the fire code's and data of quick tests (from memory). */
export const COUPON_METAL: HotMetal = {
	...stainless,
	eModulus: (c) =>
		interpolate(
			[
				[20, 200e3],
				[500, 156e3],
				[800, 112e3],
				[1000, 50e3],
				[1200, 10e3]
			],
			c
		),
	proof: (c) =>
		interpolate(
			[
				[20, 265],
				[200, 180],
				[400, 150],
				[600, 130],
				[800, 95],
				[1000, 45],
				[1200, 10]
			],
			c
		)
};
