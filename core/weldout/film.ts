/** How far protective film is peeled back from a seam. */
import type { Joint, PlanDocument } from '../document/schema';
import { tintWidths } from '../response/forPlan';

/** Beyond the tint band the film must be back by this much, mm (common practice, no source). */
export const FILM_MARGIN_MM = 10;

/** @param tintMm width of the tint band @returns on each side of the seam, mm */
export const filmBackMm = (tintMm: number) => tintMm / 2 + FILM_MARGIN_MM;

/** Seams that lie on filmed sheet, with how far the film must be back on each side, mm. */
export function filmBack(plan: PlanDocument): Map<string, number> {
	const filmed = new Set(plan.parts.filter((p) => p.film && p.film !== 'none').map((p) => p.id));
	const on = (j: Joint) => !j.stock && (filmed.has(j.a.part) || filmed.has(j.b.part));
	const joints = plan.joints.filter(on);
	return new Map([...tintWidths(plan, joints)].map(([id, mm]) => [id, filmBackMm(mm)]));
}
