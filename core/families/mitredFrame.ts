/** Rectangular frame with mitred corners, of square tube, angle or flat bar. Sizes are outside. */
import type { Vec2, Vec3 } from '../geometry/vec';
import { Builder } from './builder';
import { SHEET, length, most, type FamilyRecord, type Generated } from './family';

export const FRAME_SECTIONS = ['square-tube', 'angle', 'flat'] as const;
export interface MitredFrame {
	section: (typeof FRAME_SECTIONS)[number];
	lengthMm: number;
	widthMm: number;
	/** side of the tube or leg of the angle or width of the flat */
	sideMm: number;
	thicknessMm: number;
	material: string;
}

/** One wall of a member in its layout: across from `y0` to `y1`; how far its ends stand back at either edge (shares of the side). */
interface Wall {
	id: string;
	name: string;
	y0: number;
	y1: number;
	back0: number;
	back1: number;
}

// eslint-disable-next-line max-lines-per-function -- a drawing, told from its first sheet to its last feature
function make(p: MitredFrame): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const t = p.thicknessMm;
	const flat = p.section === 'flat';
	// mid-surface: a flat has its own width
	const s = flat ? p.sideMm : p.sideMm - t;
	const [L, W] = flat ? [p.lengthMm, p.widthMm] : [p.lengthMm - t, p.widthMm - t];
	// from the outer edge inwards: the outside wall first where there is one
	const walls: Wall[] =
		p.section === 'flat'
			? [{ id: 'face', name: 'face', y0: 0, y1: s, back0: 0, back1: 1 }]
			: p.section === 'angle'
				? [
						{ id: 'out', name: 'outside corner', y0: 0, y1: s, back0: 0, back1: 0 },
						{ id: 'face', name: 'face', y0: s, y1: 2 * s, back0: 0, back1: 1 }
					]
				: [
						{ id: 'out', name: 'outside corner', y0: 0, y1: s, back0: 0, back1: 0 },
						{ id: 'face', name: 'upper face', y0: s, y1: 2 * s, back0: 0, back1: 1 },
						{ id: 'in', name: 'inside corner', y0: 2 * s, y1: 3 * s, back0: 1, back1: 1 },
						{ id: 'under', name: 'lower face', y0: 3 * s, y1: 4 * s, back0: 1, back1: 0 }
					];
	const across = walls[walls.length - 1].y1;
	const members: { id: string; name: string; length: number; corner: Vec3; x: Vec3 }[] = [
		{ id: 'near', name: 'Near member', length: L, corner: [0, 0, 0], x: [1, 0, 0] },
		{ id: 'right', name: 'Right member', length: W, corner: [L, 0, 0], x: [0, 1, 0] },
		{ id: 'far', name: 'Far member', length: L, corner: [L, W, 0], x: [-1, 0, 0] },
		{ id: 'left', name: 'Left member', length: W, corner: [0, W, 0], x: [0, -1, 0] }
	];
	const end = (w: Wall, length: number, far: boolean): Vec2[] => {
		const at = (back: number, y: number): Vec2 => [far ? length - back * s : back * s, y];
		return [at(w.back0, w.y0), at(w.back1, w.y1)];
	};
	for (const m of members) {
		const near = walls.flatMap((w) => end(w, m.length, false));
		const far = walls.flatMap((w) => end(w, m.length, true));
		const unique = (list: Vec2[]) => list.filter((q, i) => i === 0 || Math.hypot(q[0] - list[i - 1][0], q[1] - list[i - 1][1]) > 1e-9);
		const outline = [...unique(far), ...unique(near).reverse()];
		// outside wall stands up from the bench, the face lies inwards at its top
		const frame = flat ? { origin: m.corner, x: m.x, y: inwards(m.x) } : { origin: m.corner, x: m.x, y: [0, 0, 1] as Vec3 };
		b.part(m.id, m.name, outline, frame, {
			base: [m.length / 2, s / 2],
			bends: walls.slice(1).map((w) => ({
				id: `b-${w.id}`,
				from: [w.back0 * s, w.y0] as Vec2,
				to: [m.length - w.back0 * s, w.y0] as Vec2,
				// the front of the outside wall looks outwards; the face turns to the back, inwards
				angleDeg: -90,
				insideRadiusMm: t
			}))
		});
		if (p.section === 'square-tube')
			b.stock(
				`${m.id}-stock`,
				`${m.name}, the tube's own seam`,
				m.id,
				[
					[0, 0],
					[m.length, 0]
				],
				[
					[0, across],
					[m.length, across]
				]
			);
	}
	members.forEach((m, i) => {
		const next = members[(i + 1) % 4];
		for (const w of walls)
			b.joint(
				`${w.id}-${i + 1}`,
				`Corner ${i + 1}, ${w.name}`,
				w.id === 'out' || w.id === 'in' ? 'corner-edge' : 'butt',
				[m.id, end(w, m.length, true)],
				[next.id, end(w, next.length, false)],
				// an inside corner is welded from inside the angle
				{ weldSide: w.id === 'in' ? 'back' : 'front' }
			);
	});
	const top = flat ? 0 : s;
	const corners = members.map((m, i) => b.point(`c-${i + 1}`, `Outer corner ${i + 1}`, m.id, [0, top])) as [string, string, string, string];
	const [x, y] = [L / 2, W / 2];
	b.point('m-near', 'Near member, middle', 'near', [x, top]);
	b.point('m-far', 'Far member, middle', 'far', [x, top]);
	b.square('square', 'Squareness (diagonals)', corners, Math.max(L, W));
	b.twist('twist', 'Twist of the frame', corners, Math.max(L, W));
	b.length('width', 'Width at the middle', ['m-near', 'm-far'], W);
	b.straight(
		'near-straight',
		'Near member straightness',
		'near',
		[
			[0, top],
			[L, top]
		],
		L
	);
	b.straight(
		'left-straight',
		'Left member straightness',
		'left',
		[
			[0, top],
			[2 * y, top]
		],
		W
	);
	return b.done([corners[0], corners[1], corners[3]]);
}

/** Left of a direction in the plane of the frame: inwards when the members run anticlockwise. */
const inwards = (x: Vec3): Vec3 => [-x[1], x[0], 0];

export const mitredFrame: FamilyRecord = {
	name: 'Mitred frame',
	says: 'Square tube, angle or flat, four mitred corners',
	sizes: ['sideMm'],
	fields: [
		{ kind: 'word', name: 'section', label: 'Section', options: { 'square-tube': 'square tube', angle: 'angle', flat: 'flat bar' } },
		length('lengthMm', 'Length outside', 80, 4000),
		length('widthMm', 'Width outside', 80, 4000),
		length('sideMm', 'Side of the section', 8, 300)
	],
	defaults: { ...SHEET, section: 'square-tube', lengthMm: 600, widthMm: 400, sideMm: 40 },
	fits: [most('sideMm', (p) => 0.35 * Math.min(p.lengthMm, p.widthMm), 'the frame must leave an opening')],
	make
};
