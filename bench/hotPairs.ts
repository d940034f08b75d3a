/** Short pairs that the moving-arc model and a general solver both work out: no edges to part, nothing forgotten, the coupons' metal. */
import { ArcMetal } from '$core/hot/metal';
import { ORDINARY_ARC, type HotSeam } from '$core/hot/seam';
import { COUPON_METAL } from '$core/response/couponMetal';

const metal = new ArcMetal(COUPON_METAL, [1400, 1455], 0.3, { hardening: 2000, hardensTo: Infinity, forgets: false, viscosity: 100 });
const pair = (alongMm: number, firstMm: number, stepS: number): HotSeam => ({
	lengthMm: 80,
	sheets: [{ widthMm: 40, thicknessMm: 1.5, metal, grips: [] }],
	heat: 160,
	speed: 2.5,
	runs: [{ fromMm: 0, toMm: 80, waitS: 0 }],
	tacks: [],
	welded: [],
	isOnePiece: true,
	gapMm: 0,
	startC: 20,
	ambientC: 20,
	air: 15e-6,
	arc: ORDINARY_ARC,
	mesh: { alongMm, stepS, firstMm }
});

export const HOT_PAIRS = { coarse: pair(4, 2, 1), fine: pair(2, 1, 0.5) } as const;
/** mm along the seam that is compared */
export const MIDDLE = [16, 64] as const;
