/**
 * Gaps and mismatch that follow from blanks as they were cut and folds as they came: the parts are formed anew with what was
 * measured, each in its own frame, and the seams looked at where their edges then lie.
 */
import { pathLength, pointAt } from '../geometry/polyline';
import { add, dot, norm, scale, sub, type Vec2, type Vec3 } from '../geometry/vec';
import { basePoint, layoutBox, type AssemblyMesh } from '../mesh/assemblyMesh';
import type { Part, PlanDocument } from '../document/schema';
import { spaceOf } from '../layout/space';
import { blankOf } from '../families/blank';
import { jointDirections } from '../staging/weldBook';

export interface SeamFit {
	joint: string;
	stations: number[];
	/** mm beyond the gap stated: positive stands open, negative overlaps */
	gapMm: number[];
	/** mm that one sheet stands proud of the other */
	mismatchMm: number[];
}

/** The part as measured: sizes stretched about its base, folds at the angle they came with. */
function asMeasured(part: Part, plan: PlanDocument): { part: Part; at: (p: Vec2) => Vec2 } | undefined {
	const cuts = plan.fitUp.cutReadings?.filter((r) => r.part === part.id) ?? [];
	const bends = plan.fitUp.bendReadings?.filter((r) => r.part === part.id) ?? [];
	if (!cuts.length && !bends.length) return undefined;
	const base = basePoint(part);
	const blank = blankOf(part, plan);
	const box = layoutBox(part.outline);
	const more = { x: 0, y: 0 };
	for (const r of cuts) more[r.along] = r.measuredMm - (r.along === 'x' ? blank.widthMm : blank.heightMm);
	const stretch = [1 + more.x / (box.x1 - box.x0), 1 + more.y / (box.y1 - box.y0)];
	const at = (p: Vec2): Vec2 => [base[0] + stretch[0] * (p[0] - base[0]), base[1] + stretch[1] * (p[1] - base[1])];
	const angle = (id: string, drawn: number) => bends.find((r) => r.bend === id)?.measuredDeg ?? drawn;
	return {
		at,
		part: {
			...part,
			base,
			outline: part.outline.map(at),
			holes: part.holes.map((h) => h.map(at)),
			bends: part.bends.map((b) => ({ ...b, from: at(b.from), to: at(b.to), angleDeg: angle(b.id, b.angleDeg) })),
			crossBreaks: part.crossBreaks?.map((c) => ({ ...c, corners: c.corners.map(at) }))
		}
	};
}

/** @param mesh of the drawing. @returns the seams that readings bear upon */
export function fitFromReadings(plan: PlanDocument, mesh: AssemblyMesh): SeamFit[] {
	const moved = new Map<string, (p: Vec2) => Vec3>();
	for (const part of plan.parts) {
		const measured = asMeasured(part, plan);
		if (!measured) continue;
		const [drawn, now] = [spaceOf(part), spaceOf(measured.part)];
		moved.set(part.id, (p) => sub(now(measured.at(p)), drawn(p)));
	}
	const out: SeamFit[] = [];
	for (const seam of mesh.seams) {
		const { joint } = seam;
		if (joint.stock || (!moved.has(joint.a.part) && !moved.has(joint.b.part))) continue;
		const fit: SeamFit = { joint: joint.id, stations: [...seam.stations], gapMm: [], mismatchMm: [] };
		seam.stations.forEach((station, i) => {
			const share = station / seam.lengthMm;
			const shift = (side: typeof joint.a): Vec3 => moved.get(side.part)?.(pointAt(side.path, share * pathLength(side.path))) ?? [0, 0, 0];
			const apart = sub(shift(joint.b), shift(joint.a));
			const { shrink } = jointDirections(plan, seam, i);
			const size = norm(shrink);
			const closing = size > 1e-9 ? scale(shrink, 1 / size) : ([0, 0, 0] as Vec3);
			const { s } = seam.frames[i];
			const across = add(apart, scale(s, -dot(apart, s)));
			fit.gapMm.push(-dot(apart, closing));
			fit.mismatchMm.push(norm(sub(across, scale(closing, dot(across, closing)))));
		});
		out.push(fit);
	}
	return out;
}
