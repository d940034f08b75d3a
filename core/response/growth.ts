/**
 * What a sheet's growth in its own plane does to a sheet that it meets at an angle.
 *
 * At a corner: while its seam is hot each sheet has grown in its own plane by half of what a butt
 * closes by. In a butt the two push on each other, are upset, and come short by it when they are cold. At a corner the other sheet
 * gives way out of its plane. Where the two edges keep together meanwhile (close tacks ahead, weld behind), nothing is upset: they
 * freeze together with each sheet's edge bent out by the other's growth, nothing is short and the corner has closed inside. Where they
 * slide past each other, they freeze grown, come short as a butt does, and nothing has bent. A real corner lies between: the middle is
 * forecast, and both ends are in its band.
 *
 * In a tee the web stands on the flange and can only push: the flange bends away from it on both sides, and freezes so.
 * Method and limits: docs/theory/response.md.
 */
import { pathLength } from '../geometry/polyline';
import { isWeldedOutside, JOINTS } from '../joints';
import type { Joint } from '../document/schema';
import type { Material } from '../materials/grades';

/** Share of the growth by which the edges slide and come short, and its standard deviation: both ends lie in the band's 90 % (own estimate). */
export const SLIDES = 0.5;
const SLIDES_SPREAD = 0.5 / 1.645;

/**
 * mm over which a sheet's growth bends the other: a corner of two 1.5 mm sheets in solid elements, its edges joined from the start,
 * closes by 1.73 degrees beyond what the section knows, under heat by which the two grow 0.41 mm (tests/verification/coupons.json,
 * `corner`). Nothing else was fitted: three quarters of the heat, far edges held, and tees are checks (coupons.test.ts).
 */
export const LEVER = 13.6;

/** What a sheet's edge has grown by where its heat has spread and is not yet lost, mm: alpha / rho c x its heat / its thickness (as in the closing of a butt, of two such halves). */
export const growthOf = (metal: Pick<Material, 'responsePair'>, heat: number, thickness: number): number =>
	((metal.responsePair.alpha / metal.responsePair.rhoC) * heat) / thickness;

/**
 * A seam shorter than this is held at both its ends by what it ends at (the walls of a tube): neither sheet gives way, and it closes
 * as a butt does (own choice: some four levers).
 */
const SHORTEST = 50;

export interface CornerEffect {
	/** mm, what the edges come short by */
	shrinkageMm: number;
	/** rad, closing towards the weld side: a corner closes inside, whichever side is welded */
	turnRad: number;
	/** one standard deviation of how far the edges slide: so much more shrinkage, so much less of the turn */
	spread: EdgeSpread;
}
export interface EdgeSpread {
	shrinkageMm: number;
	turnRad: number;
}
export const NO_SPREAD: EdgeSpread = { shrinkageMm: 0, turnRad: 0 };

/** Whether the sheets of a seam give way to one another; clamped to a bar along it neither does. */
export const givesWay = (joint: Pick<Joint, 'type' | 'a'>, hasBar: boolean): boolean =>
	JOINTS[joint.type].isCorner && !hasBar && pathLength(joint.a.path) >= SHORTEST;

/** @param butt mm, what a butt of the same sheets under the same heat would close by @param growthMm of both edges together */
export function cornerEffect(joint: Pick<Joint, 'type' | 'weldSide' | 'a'>, butt: number, growthMm: number, hasBar: boolean): CornerEffect {
	if (!givesWay(joint, hasBar)) return { shrinkageMm: butt, turnRad: 0, spread: NO_SPREAD };
	const inside = (isWeldedOutside(joint) ? -1 : 1) * (growthMm / LEVER);
	return {
		shrinkageMm: SLIDES * butt,
		turnRad: (1 - SLIDES) * inside,
		spread: { shrinkageMm: SLIDES_SPREAD * butt, turnRad: -SLIDES_SPREAD * inside }
	};
}

/** How far the turn of a tee is known, standard deviation as a share of it (own estimate: two solids stand 1.1 and 1.3 times above). */
const TEE_SPREAD = 0.3;

export interface TeeTurn {
	/** rad, both sides of the flange together, towards the web */
	turnRad: number;
	spreadRad: number;
}

/** @param growthMm of the web's edge, mm */
export function teeTurn(joint: Pick<Joint, 'type'>, growthMm: number, hasBar: boolean): TeeTurn {
	if (joint.type !== 'tee' || hasBar) return { turnRad: 0, spreadRad: 0 };
	const turnRad = (2 * growthMm) / LEVER;
	return { turnRad, spreadRad: TEE_SPREAD * turnRad };
}
