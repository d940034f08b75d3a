/** How a joint is set over before it is tacked: by how much, measured where, and which way. */
import { pathLength, ringArea } from '../geometry/polyline';
import type { Joint, PlanDocument } from '../document/schema';
import { isWeldedOutside, JOINTS } from '../joints';

/** A square or protractor reads no farther from the seam than this, mm. */
export const REACH_MM = 150;

/** An over-angle beyond this is not set on thin sheet (own estimate), degrees. */
export const MOST_PRESET_DEG = 8;
/** What a person sets with a protractor or a shim, degrees. */
export const STEP_DEG = 0.25;

export interface PresetSetting {
	deg: number;
	/** from the seam to where the shim or gap is measured, mm: it lies on the part */
	reachMm: number;
	/** of the shim under the edge, or the gap to a square, mm */
	shimMm: number;
	/** the joint is opened on the side that is welded, which the weld closes; else closed */
	isOpened: boolean;
	/** of a corner: what a square then reads inside it beyond the drawing's angle, degrees */
	insideDeg?: number;
}

/** How far a shim lifts an edge to set an angle, mm, over a reach. */
export const shimFor = (deg: number, reachMm: number) => reachMm * Math.sin((Math.abs(deg) * Math.PI) / 180);

/** @returns how to set it, or nothing where the joint is set as drawn */
export function presetSetting(plan: PlanDocument, joint: Joint): PresetSetting | undefined {
	if (joint.presetDeg === 0 || joint.stock) return undefined;
	const side = plan.parts.find((p) => p.id === joint.b.part)!;
	// about as far as the sheet reaches from the seam
	const reachMm = Math.min(REACH_MM, Math.abs(ringArea(side.outline)) / pathLength(joint.b.path));
	return {
		deg: Math.abs(joint.presetDeg),
		reachMm,
		shimMm: shimFor(joint.presetDeg, reachMm),
		isOpened: joint.presetDeg > 0,
		insideDeg: JOINTS[joint.type].isCorner ? (isWeldedOutside(joint) ? -1 : 1) * joint.presetDeg : undefined
	};
}

/** @param length lengths in the person's unit */
export const presetWords = (s: PresetSetting, length: (mm: number) => string): string =>
	`${s.isOpened ? 'Open' : 'Close'} it ${s.deg}° on the side that is welded: ${length(s.shimMm)} at ${length(s.reachMm)} from the seam, by a shim, a wedge of that angle or the fold.${s.insideDeg === undefined ? '' : ` Inside the corner a square then reads ${Math.abs(s.insideDeg)}° ${s.insideDeg > 0 ? 'more' : 'less'} than drawn.`} Check with a protractor or a square and that gap before tacking.`;
