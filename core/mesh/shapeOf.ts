/** What the piece's shape is to the computation, as text to compare: whatever is not in it can change without the work done again. */
import { holdKind } from '../holds';
import { findMaterial } from '../materials/grades';
import type { AnyHoldDown, PlanDocument } from '../document/schema';

const TALK = new Set(['name', 'material', 'heatNumber', 'film', 'grain']);
/** all of a part but what is only said of it: a field that is added later counts until it is named here */
const cut = (plan: PlanDocument) => plan.parts.map((p) => Object.entries(p).filter(([field]) => !TALK.has(field)));
const seams = (plan: PlanDocument) => plan.joints.map((j) => [j.id, j.type, j.a, j.b, j.weldSide]);
/** where a hold-down needs points of the mesh; nothing where it needs none, so that a bar put on changes no mesh */
const points = (plan: PlanDocument) => (h: AnyHoldDown) => {
	const [spots, line] = [holdKind(h).spots(h, plan), holdKind(h).line(h)];
	return spots.length || line ? [[h.id, spots, line]] : [];
};
const grips = (plan: PlanDocument) => (h: AnyHoldDown) => {
	const list = holdKind(h).grips(h, plan);
	return list.length ? [[h.id, list]] : [];
};

/** What the sheets are and how they meet: whoever changes this has another piece, and figures of the old one mean nothing. */
export const pieceOf = (plan: PlanDocument): string => JSON.stringify([cut(plan), seams(plan), plan.meshSizeMm]);

/** All that the mesh is cut from: tacks and single places that are held are points of it. */
export const meshOf = (plan: PlanDocument): string =>
	JSON.stringify([pieceOf(plan), plan.tacks.map((t) => [t.joint, t.stationMm]), plan.holdDowns.flatMap(points(plan))]);

/** All that the condensed model stands on: the mesh, how stiff the sheets are, what grips them, and where it is read. */
export const shapeOf = (plan: PlanDocument): string =>
	JSON.stringify([
		meshOf(plan),
		plan.parts.map((p) => {
			const m = findMaterial(p.material, plan.materials);
			return [m.eModulus, m.poisson];
		}),
		plan.holdDowns.flatMap(grips(plan)),
		// parts laid on later go with what stands by then
		plan.fitUp.order?.map((s) => s.parts),
		plan.features.map((f) => ({ ...f, tolerance: 0, name: 0 })),
		plan.points.map((p) => ({ ...p, name: 0 })),
		plan.probes,
		plan.datum
	]);
