import { cuttingList, oversizeOf } from '$core/families/cuttingList';
import { findMaterial } from '$core/materials/grades';
import type { PlanDocument } from '$core/document/schema';
import { seamResponses } from '$core/response/forPlan';

/** The cutting list of a plan for a quantity, with the oversize its weld responses ask for. */
const shrinkages = (plan: PlanDocument) =>
	[...seamResponses(plan)].map(([joint, r]) => ({ joint, acrossMm: r.transverseShrinkageMm, tendonForceN: r.tendonForceN }));

/** Oversize of each part by id, mm in x and y. */
export function oversizes(plan: PlanDocument): (partId: string) => [number, number] {
	const seams = shrinkages(plan);
	return (id) => {
		const part = plan.parts.find((p) => p.id === id)!;
		return oversizeOf(part, plan, seams, findMaterial(part.material, plan.materials).eModulus);
	};
}

export function cuttingListOf(plan: PlanDocument, quantity: number) {
	const seams = shrinkages(plan);
	return cuttingList(plan, quantity, seams, (p) => findMaterial(p.material, plan.materials).eModulus);
}

export const bendRuleWords = (plan: PlanDocument) =>
	plan.bendRule?.method === 'din-6935' ? 'bend allowance after DIN 6935' : `bend allowance with a K-factor of ${plan.bendRule?.kFactor ?? 0.42}`;
