/** Weld responses of a plan's seams: what each is worked out from, and all of them where no mesh is wanted (sheets, lists). */
import { blocksOf } from '../holds';
import { pathLength, pointAt, ringArea, segmentDistance } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { findMaterial } from '../materials/grades';
import { POINT_TOLERANCE_MM } from '../mesh/flatMesh';
import type { Bar, Joint, Part, PlanDocument, WeldSettings } from '../document/schema';
import { tintWidth, weldResponse, type ResponseInput, type WeldResponse } from './weldResponse';

/** Does the seam run on the sheet's face, away from its outline and holes? */
export function isOnFace(part: Part, path: readonly Vec2[]): boolean {
	const middle = pointAt(path, pathLength(path) / 2);
	return ![part.outline, ...part.holes].some((ring) =>
		ring.some((p, i) => segmentDistance(middle, p, ring[(i + 1) % ring.length]) < POINT_TOLERANCE_MM)
	);
}

export function responseInput(
	plan: PlanDocument,
	joint: Joint,
	settings: WeldSettings,
	bar: Bar | undefined,
	bendingNmm2?: ResponseInput['bendingNmm2']
): ResponseInput {
	return {
		joint,
		settings,
		bendingNmm2,
		sheets: [joint.a, joint.b].map((side) => {
			const p = plan.parts.find((x) => x.id === side.part)!;
			return {
				isFace: isOnFace(p, side.path),
				material: findMaterial(p.material, plan.materials),
				thicknessMm: p.thicknessMm,
				// mean width of sheet beside the seam
				widthMm: Math.abs(ringArea(p.outline)) / pathLength(joint.a.path)
			};
		}),
		ambientC: plan.ambientC,
		bar
	};
}

/** What a seam is welded with at its middle: its own settings, and the bar that lies there. */
function atMiddle(plan: PlanDocument, joint: Joint): ResponseInput {
	const middle = pathLength(joint.a.path) / 2;
	const bar = blocksOf(plan).find((h) => h.joint === joint.id && h.fromMm <= middle && h.toMm >= middle);
	return responseInput(
		plan,
		joint,
		plan.settings.find((s) => s.id === joint.settings)!,
		bar
	);
}

/** By joint, each with its own settings and the bar at its middle; seams of the stock are left out. */
export const seamResponses = (plan: PlanDocument): Map<string, WeldResponse> =>
	new Map(plan.joints.filter((j) => !j.stock).map((j) => [j.id, weldResponse(atMiddle(plan, j))]));

/** Width of the tint at some seams, mm. */
export const tintWidths = (plan: PlanDocument, joints: readonly Joint[]): Map<string, number> =>
	new Map(joints.map((j) => [j.id, tintWidth(atMiddle(plan, j))]));
