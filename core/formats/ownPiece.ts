/**
 * The piece again from the blanks this program drew of it (formats/blankDxf.ts): outlines, holes and bends from the lines, taken from
 * the cut blank back to the layout; form, place and seams from the notes beside them. Then it is planned as any import is.
 */
import { bendDeduction, kOf } from '../families/blank';
import type { BendRule, Joint, Part, PlanDocument } from '../document/schema';
import { ringMiddle } from '../geometry/polyline';
import { distance2, type Vec2 } from '../geometry/vec';
import type { DxfRead } from './dxfIn';
import { readNote, type JointNote, type PartNote, type SeamNote } from './pieceNotes';
import { basePoint } from '../mesh/assemblyMesh';
import { Refusal } from '../refusal/refusal';
import { planFromParts } from '../compose/fromFlats';

/** On a bend line, mm. */
const ON_MM = 5e-3;

/** @returns nothing where the drawing says nothing of a piece @throws Refusal where what it says does not go with its lines */
export function ownPiece(read: DxfRead, toleranceMm: number): PlanDocument | undefined {
	const notes = read.own.notes.flatMap((t) => readNote(t) ?? []);
	const of = <T>(word: string) => notes.filter((n) => n.word === word).map((n) => n.value as unknown as T);
	const partNotes = of<PartNote>('PART');
	if (!partNotes.length) return undefined;
	const [bendRule] = of<BendRule>('RULE');
	const damaged = (what: string) =>
		new Refusal(`The drawing's notes of its piece do not go with its lines (${what}): take its PIECE layers out, and it is read as any drawing`);
	// blanks lie side by side in the order of their notes
	const flats = [...read.flats].sort((p, q) => left(p.outline) - left(q.outline));
	const isPair = (v: unknown) => Array.isArray(v) && v.length === 2 && v.every((x) => Number.isFinite(x) && x !== null);
	if (partNotes.some((p) => !isPair(p.corner) || !isPair(p.stretch) || !Array.isArray(p.bends))) throw damaged('a part’s place');
	if (flats.length !== partNotes.length) throw damaged(`${flats.length} blanks, ${partNotes.length} parts`);
	if (partNotes.reduce((n, p) => n + p.bends.length, 0) !== read.own.bends.length) throw damaged('bends');
	let bend = 0;
	const unfolded = partNotes.map((note, i) => {
		const flat = flats[i];
		const drawn: Vec2 = [left(flat.outline), Math.min(...flat.outline.map((p) => p[1]))];
		const onBlank = (p: Vec2): Vec2 => [note.corner[0] + (p[0] - drawn[0]) / note.stretch[0], note.corner[1] + (p[1] - drawn[1]) / note.stretch[1]];
		const lines = note.bends.map((b) => {
			const [from, to] = read.own.bends[bend++];
			return { ...b, from: onBlank(from), to: onBlank(to) };
		});
		return { part: layoutPart(note, flat.outline.map(onBlank), flat.holes, onBlank, lines, bendRule), onBlank, lines };
	});
	const seams = of<SeamNote>('SEAM');
	if (seams.length !== read.own.seams.length) throw damaged('seams');
	const joints = of<JointNote>('JOINT').map((j): Joint => {
		const side = (which: 'a' | 'b') => {
			const k = seams.findIndex((s) => s.joint === j.id && s.side === which);
			const host = unfolded[partNotes.findIndex((p) => p.id === seams[k]?.part)];
			if (!host) throw damaged(`seam ${j.id}`);
			return { part: seams[k].part, path: read.own.seams[k].map((p) => host.part.back(host.onBlank(p))) };
		};
		// settings are the shop's and not the drawing's
		return { ...j, settings: 'main', a: side('a'), b: side('b') };
	});
	return planFromParts(
		unfolded.map(({ part }) => part.part),
		{ toleranceMm, bendRule },
		joints
	);
}

const left = (ring: readonly Vec2[]) => Math.min(...ring.map((p) => p[0]));

interface BlankBend {
	id: string;
	angleDeg: number;
	insideRadiusMm: number;
	from: Vec2;
	to: Vec2;
}

/** A part's layout from its blank, and the way back for any place on it. */
function layoutPart(
	note: PartNote,
	outline: Vec2[],
	holes: readonly Vec2[][],
	onBlank: (p: Vec2) => Vec2,
	lines: readonly BlankBend[],
	rule: BendRule | undefined
): { part: Part; back: (p: Vec2) => Vec2 } {
	const { corner: _, stretch: __, bends: ___, ...rest } = note;
	const base = note.base ?? basePoint({ outline } as Part);
	const cuts = lines.map((b) => {
		const length = distance2(b.from, b.to);
		const along: Vec2 = [(b.to[0] - b.from[0]) / length, (b.to[1] - b.from[1]) / length];
		const off = (p: Vec2) => along[0] * (p[1] - b.from[1]) - along[1] * (p[0] - b.from[0]);
		const home = Math.sign(off(base)) || 1;
		const d = bendDeduction(b, note.thicknessMm, kOf(b, note.thicknessMm, rule));
		return {
			d,
			length,
			/** mm beyond the line, away from the base, and along it */
			beyond: (p: Vec2) => -home * off(p),
			foot: (p: Vec2) => along[0] * (p[0] - b.from[0]) + along[1] * (p[1] - b.from[1]),
			away: [home * along[1], -home * along[0]] as Vec2
		};
	});
	// what lies beyond a bend was drawn in by its deduction; on the blank the bend itself stands half of it nearer than it will be
	const back = (p: Vec2, own = -1): Vec2 => {
		let [x, y] = p;
		cuts.forEach((c, k) => {
			const foot = c.foot(p);
			if (foot < -ON_MM || foot > c.length + ON_MM) return;
			if (k !== own && c.beyond(p) <= c.d / 2 + ON_MM) return;
			const by = k === own ? c.d / 2 : c.d;
			x += by * c.away[0];
			y += by * c.away[1];
		});
		return [Math.round(x * 1e6) / 1e6, Math.round(y * 1e6) / 1e6];
	};
	return {
		part: {
			...rest,
			outline: outline.map((p) => back(p)),
			// a hole keeps its size on the drawing: only its middle was stretched
			holes: holes.map((h) => {
				const m = ringMiddle(h);
				const c = onBlank(m);
				return h.map((p) => back([c[0] + p[0] - m[0], c[1] + p[1] - m[1]]));
			}),
			bends: lines.map((b, k) => ({ ...b, from: back(b.from, k), to: back(b.to, k) }))
		},
		back: (p) => back(p)
	};
}
