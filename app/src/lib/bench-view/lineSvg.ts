/** The piece as lines, from where it is looked at: a picture that stays sharp at any size, and that any drawing program opens. */
import { drawingSvg } from '$core/draw/svg';
import { PieceDrawer } from '$core/draw/lineDrawing';
import type { View } from '$core/draw/view';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import type { PlanDocument } from '$core/document/schema';

/** Of the page it is on, px. */
const [WIDE, HIGH] = [1000, 750];

/** @param hidden indices of parts left out @param isOrdered with an arrow and its number for each run, in place of the letters of the seams */
export function lineSvg(plan: PlanDocument, view: View, hidden: ReadonlySet<number>, isOrdered: boolean): string {
	const mesh = assemblyMesh(plan);
	const standing = new Set([...mesh.parts.keys()].filter((k) => !hidden.has(k)));
	const drawing = new PieceDrawer(mesh).drawFrom(view, standing);
	const arrows = plan.runs.map((r, i) => ({ joint: r.joint, fromMm: r.fromMm, toMm: r.toMm, label: String(i + 1) }));
	return drawingSvg(drawing, isOrdered ? { arrows } : { letters: true }, WIDE, HIGH);
}
