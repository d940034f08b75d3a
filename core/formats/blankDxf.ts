/** Cut blanks as one DXF, side by side, each with its oversize left on; with the marks to etch when they are asked for. */
import { blankOf, onBlank } from '../families/blank';
import type { CutLine } from '../families/cuttingList';
import { ringMiddle } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Part, PlanDocument } from '../document/schema';
import { seamLetters } from '../layout/seamNames';
import { writeDxf, type DxfDrawing } from './dxfOut';
import { noteOf, type JointNote, type PartNote, type SeamNote } from './pieceNotes';
import { etchMarks } from './etchMarks';

/** Between two blanks on the drawing, mm. */
const APART = 20;

/** The way from a blank to its drawing: its lower left corner comes to lie at `shift`, and it is stretched about it by its oversize. */
function drawn(l: Pick<CutLine, 'blank' | 'widthMm' | 'heightMm'>, shift: Vec2) {
	const b = l.blank;
	const corner: Vec2 = [Math.min(...b.outline.map((p) => p[0])), Math.min(...b.outline.map((p) => p[1]))];
	const stretch: Vec2 = [l.widthMm / b.widthMm, l.heightMm / b.heightMm];
	const at = (p: Vec2): Vec2 => [shift[0] + stretch[0] * (p[0] - corner[0]), shift[1] + stretch[1] * (p[1] - corner[1])];
	return { corner, stretch, at };
}

/** The blank stretched by its oversize. */
export function blankDrawing(l: Pick<CutLine, 'blank' | 'widthMm' | 'heightMm'>, shift: Vec2 = [0, 0], etch?: PlanDocument): DxfDrawing {
	const b = l.blank;
	const { at } = drawn(l, shift);
	return {
		outline: b.outline.map(at),
		// a hole keeps its size: only its middle moves
		holes: b.holes.map((h) => {
			const m = ringMiddle(h);
			const c = at(m);
			return h.map((p): Vec2 => [c[0] + p[0] - m[0], c[1] + p[1] - m[1]]);
		}),
		bends: b.bendLines.map((x) => ({ from: at(x.from), to: at(x.to) })),
		marks:
			etch &&
			etchMarks(etch, b.part.id, namesOf(etch)).map((m) => ({ ...m, from: at(onBlank(b.part, etch, m.from)), to: at(onBlank(b.part, etch, m.to)) }))
	};
}

export function blanksDxf(lines: readonly CutLine[]): string {
	let x = 0;
	const drawings = lines.map((l) => {
		const d = blankDrawing(l, [x, 0]);
		x += l.widthMm + APART;
		return d;
	});
	return writeDxf(drawings);
}

const namesOf = (plan: PlanDocument) => {
	const letters = seamLetters(plan.joints);
	return new Map(plan.joints.map((j) => [j.id, `${letters.get(j.id) ?? ''} ${j.name}`.trim()]));
};

/** Every part of the plan with its etch layers, parts of one size apart too: each carries its own marks. @param oversize mm left on in x and y, by part */
export function etchedDxf(plan: PlanDocument, oversize: (partId: string) => readonly [number, number]): string {
	let x = 0;
	return writeDxf(
		plan.parts.map((part, i) => {
			const blank = blankOf(part, plan);
			const [ox, oy] = oversize(part.id);
			const line = { blank, widthMm: blank.widthMm + ox, heightMm: blank.heightMm + oy };
			const d = blankDrawing(line, [x, 0], plan);
			const piece = pieceOf(plan, part, line, [x, 0], i === 0);
			x += line.widthMm + APART;
			return { ...d, piece };
		})
	);
}

/** Seams of one part on its drawing, and the notes that tell them and the part; with the first part, what is said of the whole. */
function pieceOf(
	plan: PlanDocument,
	part: Part,
	l: Pick<CutLine, 'blank' | 'widthMm' | 'heightMm'>,
	shift: Vec2,
	isFirst: boolean
): DxfDrawing['piece'] {
	const { corner, stretch, at } = drawn(l, shift);
	const { outline: _, holes: __, bends, ...rest } = part;
	const note: PartNote = { ...rest, corner, stretch, bends: bends.map(({ id, angleDeg, insideRadiusMm }) => ({ id, angleDeg, insideRadiusMm })) };
	const sides = plan.joints.flatMap((j) => (['a', 'b'] as const).filter((side) => j[side].part === part.id).map((side) => ({ j, side })));
	const joints = isFirst ? plan.joints.map(({ a: ___, b: ____, ...joint }) => noteOf('JOINT', joint satisfies JointNote)) : [];
	return {
		seams: sides.map(({ j, side }) => j[side].path.map((p) => at(onBlank(part, plan, p)))),
		notes: [
			...(isFirst && plan.bendRule ? [noteOf('RULE', plan.bendRule)] : []),
			...joints,
			noteOf('PART', note),
			...sides.map(({ j, side }) => noteOf('SEAM', { joint: j.id, side, part: part.id } satisfies SeamNote))
		]
	};
}
