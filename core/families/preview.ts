/** What a family would make, before it is made: how it looks, what it weighs, what is cut and how much is welded. */
import type { Fault } from '../document/faults';
import { PieceDrawer, type LineDrawing } from '../draw/lineDrawing';
import { pathLength } from '../geometry/polyline';
import { assemblyMesh } from '../mesh/assemblyMesh';
import type { PlanDocument } from '../document/schema';
import type { MadeFamily } from '.';
import { blankOf, type Blank } from './blank';
import type { FamilyParameters } from './family';
import { newPlan } from './newPlan';

export interface FamilyPreview {
	drawing: LineDrawing;
	/** kg, as sheet */
	weightKg: number;
	/** mm to be welded, and in how many seams */
	seamMm: number;
	seams: number;
	/** alike ones once */
	blanks: { name: string; count: number; widthMm: number; heightMm: number; thicknessMm: number }[];
}

/** The drawing wants outlines and no forecast: as few triangles as tell a round from a corner, share of the piece. */
const COARSE = 1 / 10;

export function previewOf(
	kind: MadeFamily,
	parameters: FamilyParameters
): { preview: FamilyPreview; faults: [] } | { preview?: undefined; faults: Fault[] } {
	const { plan, faults } = newPlan(kind, parameters);
	if (!plan) return { faults };
	const blanks = plan.parts.map((p) => blankOf(p, plan));
	const welded = plan.joints.filter((j) => !j.stock);
	return {
		faults: [],
		preview: {
			drawing: drawingOf(plan),
			weightKg: blanks.reduce((sum, b) => sum + b.weightKg, 0),
			seamMm: welded.reduce((sum, j) => sum + pathLength(j.a.path), 0),
			seams: welded.length,
			blanks: alikeOnce(blanks)
		}
	};
}

function drawingOf(plan: PlanDocument): LineDrawing {
	const size = Math.max(...plan.parts.flatMap((p) => p.outline.map(([x, y]) => Math.hypot(x, y))));
	return new PieceDrawer(assemblyMesh({ ...plan, meshSizeMm: Math.min(500, Math.max(1, COARSE * size)), tacks: [], runs: [] })).draw('top', 0);
}

function alikeOnce(blanks: readonly Blank[]): FamilyPreview['blanks'] {
	const out: FamilyPreview['blanks'] = [];
	const isSame = (p: number, q: number) => Math.abs(p - q) < 0.05;
	for (const { part, widthMm, heightMm } of blanks) {
		const { name, thicknessMm } = part;
		const same = out.find((b) => b.thicknessMm === thicknessMm && isSame(b.widthMm, widthMm) && isSame(b.heightMm, heightMm));
		if (same) same.count++;
		else out.push({ name, count: 1, widthMm, heightMm, thicknessMm });
	}
	return out;
}
