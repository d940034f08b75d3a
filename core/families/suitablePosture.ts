/** How a new piece is best laid to be measured: a thin flat sheet on three points mostly shows its own weight. */
import { featureKind } from '../features';
import { findMaterial } from '../materials/grades';
import { layoutBox } from '../mesh/assemblyMesh';
import type { Part, PlanDocument } from '../document/schema';
import type { Posture } from '../document/words';

/** m/s2, standard acceleration of free fall (ISO 80000-3) */
const GRAVITY = 9.80665;
/** A sag of this share of what the piece is judged by matters (own choice; the final shape says so from the same share on). */
export const SAG_MATTERS = 0.25;

/** Flat and level: nothing folds, rolls or stands, so the sheet's own bending is all that bears it. */
const isFlat = (p: Part) =>
	!p.bends.length && !p.roll && !p.cone && !p.dish && !p.crossBreaks?.length && Math.abs(p.frame.x[2]) + Math.abs(p.frame.y[2]) < 1e-6;

/**
 * Sag in the middle of a sheet laid over two lines `span` apart, mm: 5 w L4 / 384 E I, the handbook's simply supported beam under
 * its own weight.
 */
export const sagOfStrip = (span: number, thickness: number, density: number, eModulus: number): number =>
	(5 * density * 1e-9 * GRAVITY * thickness * span ** 4) / (384 * eModulus * (thickness ** 3 / 12));

/** Three points, or upright on its edge where a flat piece would sag by a share of its tolerance that matters. */
export function suitablePosture(plan: Pick<PlanDocument, 'parts' | 'features' | 'materials'>): Posture {
	if (!plan.parts.every(isFlat)) return 'three-points';
	const judged = plan.features.filter((f) => featureKind(f).sags).map((f) => f.tolerance.upper);
	if (!judged.length) return 'three-points';
	const sag = Math.max(
		...plan.parts.map((p) => {
			const m = findMaterial(p.material, plan.materials);
			const box = layoutBox(p.outline);
			return sagOfStrip(Math.max(box.x1 - box.x0, box.y1 - box.y0), p.thicknessMm, m.density, m.eModulus);
		})
	);
	return sag > SAG_MATTERS * Math.min(...judged) ? 'upright' : 'three-points';
}
