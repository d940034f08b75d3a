/** Weld responses of a plan's seams: what each is worked out from, and all of them where no mesh is wanted (sheets, lists). */
import { pathLength, ringArea } from '../geometry/polyline';
import { findMaterial } from '../materials/grades';
import type { Bar, Joint, PlanDocument, WeldSettings } from '../plan/schema';
import { weldResponse, type ResponseInput, type WeldResponse } from './weldResponse';

export function responseInput(plan: PlanDocument, joint: Joint, settings: WeldSettings, bar: Bar | undefined): ResponseInput {
	return {
		joint,
		settings,
		sheets: [joint.a.part, joint.b.part].map((id) => {
			const p = plan.parts.find((x) => x.id === id)!;
			return {
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

/** By joint, each with its own settings and the bar at its middle; seams of the stock are left out. */
export function seamResponses(plan: PlanDocument): Map<string, WeldResponse> {
	const out = new Map<string, WeldResponse>();
	for (const joint of plan.joints) {
		if (joint.stock) continue;
		const middle = pathLength(joint.a.path) / 2;
		const bar = plan.holdDowns.find((h): h is Bar => h.kind === 'bar' && h.joint === joint.id && h.fromMm <= middle && h.toMm >= middle);
		const settings = plan.settings.find((s) => s.id === joint.settings)!;
		out.set(joint.id, weldResponse(responseInput(plan, joint, settings, bar)));
	}
	return out;
}
