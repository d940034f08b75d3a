/** Short pairs that the moving-arc model and a general solver both work out: no edges to part, nothing forgotten, the coupons' metal. */
import { ArcMetal } from '$core/hot/metal';
import { ORDINARY_ARC, type HotSeam } from '$core/hot/seam';
import { COUPON_METAL } from '$core/response/couponMetal';

const metal = new ArcMetal(COUPON_METAL, [1400, 1455], 0.3, { hardening: 2000, hardensTo: Infinity, forgets: false, viscosity: 100 });
interface Arc {
	heat: number;
	speed: number;
}
const pair = (
	lengthMm: number,
	widthMm: number,
	{ alongMm, firstMm, stepS }: HotSeam['mesh'],
	{ heat, speed }: Arc = { heat: 160, speed: 2.5 }
): HotSeam => ({
	lengthMm,
	sheets: [{ widthMm, thicknessMm: 1.5, metal, grips: [] }],
	heat,
	speed,
	runs: [{ fromMm: 0, toMm: lengthMm, waitS: 0 }],
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

/** Minutes for the general solver: its figures are kept. */
export const HOT_PAIRS = {
	coarse: pair(80, 40, { alongMm: 4, firstMm: 2, stepS: 1 }),
	fine: pair(80, 40, { alongMm: 2, firstMm: 1, stepS: 0.5 })
} as const;
/**
 * So short that it is given to the general solver at every test. A narrow piece under a slow arc is warm throughout, and what little cold
 * metal is left makes its pull: there cells of 4 mm are 9 to 18 % off, so this one is quicker and its cells are finer.
 */
export const SHORT_PAIR = pair(48, 30, { alongMm: 3, firstMm: 1.5, stepS: 0.75 }, { heat: 100, speed: 4 });
/** Share of the seam's length, from its middle either way, that is compared. */
const COMPARED = 0.3;
export const middleOf = ({ lengthMm }: HotSeam): [number, number] => [(0.5 - COMPARED) * lengthMm, (0.5 + COMPARED) * lengthMm];
