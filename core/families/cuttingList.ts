/** What to cut: blanks with the oversize their seams will take back, counted for the quantity, grain and film side stated. */
import { pathLength, segmentDistance } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Part, PlanDocument } from '../document/schema';
import { blankOf, type Blank } from './blank';

/** Shrinkage of each seam, mm: across it, and along it over its whole length. */
export interface SeamShrinkage {
	joint: string;
	acrossMm: number;
	/** N: what shortens the sheet along the seam */
	tendonForceN: number;
}

export interface CutLine {
	part: Part;
	blank: Blank;
	/** pieces of this blank for the whole quantity */
	count: number;
	/** mm to leave on, in the layout's x and y, so that it ends at its size */
	oversize: [number, number];
	widthMm: number;
	heightMm: number;
	grain: string;
	film: string;
	weightKg: number;
}

/** A path this near an edge lies on it, mm. */
const ON_EDGE = 0.05;

/** Share of a seam's shrinkage that this part gives: by thickness, as the heat goes. */
const shareOf = (part: Part, other: Part) => part.thicknessMm / (part.thicknessMm + other.thicknessMm);

/**
 * Oversize of a part, mm: every seam along its edge draws that edge in by the part's share; every seam along it shortens it
 * by F L / (E A) over the section it pulls on (Hooke; a lower bound where the sheet buckles).
 */
export function oversizeOf(part: Part, plan: PlanDocument, seams: readonly SeamShrinkage[], eModulus: number): [number, number] {
	const out: [number, number] = [0, 0];
	for (const s of seams) {
		const joint = plan.joints.find((j) => j.id === s.joint);
		if (!joint || joint.stock) continue;
		for (const [side, far] of [
			[joint.a, joint.b],
			[joint.b, joint.a]
		]) {
			if (side.part !== part.id) continue;
			const path = side.path;
			const length = pathLength(path);
			const chord: Vec2 = [path[path.length - 1][0] - path[0][0], path[path.length - 1][1] - path[0][1]];
			const straight = Math.hypot(...chord);
			// a ring shrinks both ways alike and a curve somewhere between: only straight seams tell a direction
			if (straight < 0.98 * length) continue;
			const onEdge = part.outline.some(
				(p, i) =>
					segmentDistance(path[0], p, part.outline[(i + 1) % part.outline.length]) < ON_EDGE &&
					segmentDistance(path[path.length - 1], p, part.outline[(i + 1) % part.outline.length]) < ON_EDGE
			);
			const other = plan.parts.find((p) => p.id === far.part) ?? part;
			const along = [Math.abs(chord[0]) / straight, Math.abs(chord[1]) / straight];
			const across = onEdge ? s.acrossMm * (far.part === part.id ? 0.5 : shareOf(part, other)) : 0;
			out[0] += across * along[1];
			out[1] += across * along[0];
			const xs = part.outline.map((p) => p[0]);
			const ys = part.outline.map((p) => p[1]);
			const width = along[0] > along[1] ? Math.max(...ys) - Math.min(...ys) : Math.max(...xs) - Math.min(...xs);
			const shorten = ((far.part === part.id ? 0.5 : shareOf(part, other)) * s.tendonForceN * length) / (eModulus * part.thicknessMm * width);
			out[0] += shorten * along[0];
			out[1] += shorten * along[1];
		}
	}
	return out;
}

const FILM_WORDS = { none: 'none', front: 'on the front', back: 'on the back', both: 'on both sides' } as const;

export function cuttingList(plan: PlanDocument, quantity: number, seams: readonly SeamShrinkage[], eModulusOf: (part: Part) => number): CutLine[] {
	const lines: CutLine[] = [];
	for (const part of plan.parts) {
		const blank = blankOf(part, plan);
		const oversize = oversizeOf(part, plan, seams, eModulusOf(part));
		const line: CutLine = {
			part,
			blank,
			count: quantity,
			oversize,
			widthMm: blank.widthMm + oversize[0],
			heightMm: blank.heightMm + oversize[1],
			grain: part.grain && part.grain !== 'none' ? `along ${part.grain}` : 'any',
			film: FILM_WORDS[part.film ?? 'none'],
			weightKg: blank.weightKg * quantity
		};
		// the same blank twice is one line
		const same = lines.find((l) => sameBlank(l, line));
		if (same) {
			same.count += quantity;
			same.weightKg += line.weightKg;
			same.part = { ...same.part, name: `${same.part.name}, ${part.name}` };
		} else lines.push(line);
	}
	return lines;
}

const sameBlank = (a: CutLine, b: CutLine) =>
	a.part.material === b.part.material &&
	a.part.thicknessMm === b.part.thicknessMm &&
	a.grain === b.grain &&
	a.film === b.film &&
	a.part.heatNumber === b.part.heatNumber &&
	Math.abs(a.widthMm - b.widthMm) < 0.02 &&
	Math.abs(a.heightMm - b.heightMm) < 0.02 &&
	a.blank.outline.length === b.blank.outline.length &&
	a.part.bends.length === b.part.bends.length &&
	a.part.holes.length === b.part.holes.length &&
	Math.abs(a.blank.areaMm2 - b.blank.areaMm2) < 0.5 &&
	a.part.bends.every((x, i) => x.angleDeg === b.part.bends[i].angleDeg);

const cell = (v: string | number) => (typeof v === 'number' ? String(v) : /[",\n;]/.test(v) ? `"${v.replaceAll('"', '""')}"` : v);

/** The list as CSV, sizes in mm. A cell that a spreadsheet would take for a formula is defused. */
export function cuttingListCsv(lines: readonly CutLine[]): string {
	const safe = (v: string) => (/^[=+\-@\t]/.test(v) ? `'${v}` : v);
	const head = [
		'blank',
		'material',
		'thickness mm',
		'width mm',
		'height mm',
		'of which oversize x mm',
		'oversize y mm',
		'bends',
		'holes',
		'grain',
		'film',
		'heat',
		'count',
		'weight kg'
	];
	const rows = lines.map((l) =>
		[
			safe(l.part.name),
			safe(l.part.material),
			l.part.thicknessMm,
			Number(l.widthMm.toFixed(2)),
			Number(l.heightMm.toFixed(2)),
			Number(l.oversize[0].toFixed(2)),
			Number(l.oversize[1].toFixed(2)),
			l.part.bends.length,
			l.part.holes.length,
			l.grain,
			l.film,
			safe(l.part.heatNumber ?? ''),
			l.count,
			Number(l.weightKg.toFixed(3))
		].map(cell)
	);
	return [head, ...rows].map((r) => r.join(',')).join('\r\n') + '\r\n';
}
