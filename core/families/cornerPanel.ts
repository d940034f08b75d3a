/** Two plates that meet along an edge, square to one another. */
import type { Vec2 } from '../geometry/vec';
import { Builder, facePoints, rect } from './builder';
import { SHEET, length, type FamilyRecord, type Generated, type Sheet } from './family';

export interface CornerPanel extends Sheet {
	lengthMm: number;
	/** of the plate that lies, away from the corner */
	baseMm: number;
	/** of the plate that stands on its edge */
	heightMm: number;
}

function make(p: CornerPanel): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const [L, W, H] = [p.lengthMm, p.baseMm, p.heightMm];
	const edge: Vec2[] = [
		[0, 0],
		[L, 0]
	];
	b.part('base', 'Base', rect(0, 0, L, W), { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] });
	b.part('wall', 'Wall', rect(0, 0, L, H), { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1] });
	b.joint('corner-1', 'Corner seam', 'corner-edge', ['base', edge], ['wall', edge]);
	const face = (part: string, name: string, wide: number) =>
		facePoints([L / 2, 0.55 * wide], Math.min(L, wide) / 3.5).map((at, i) => b.point(`${part}-${i + 1}`, `${name}, face point ${i + 1}`, part, at));
	b.angle('angle', 'Wall to base', face('base', 'Base', W), face('wall', 'Wall', H), Math.min(W, H));
	b.straight('bow', 'Corner straightness', 'base', edge, L);
	b.straight('top', 'Top edge straightness', 'wall', [[0, H] as Vec2, [L, H] as Vec2], L);
	const corners: [string, string, string, string] = [
		b.point('c-bl', 'Corner, datum left', 'base', [0, W]),
		b.point('c-br', 'Corner, datum right', 'base', [L, W]),
		b.point('c-tr', 'Wall, top right', 'wall', [L, H]),
		b.point('c-tl', 'Wall, top left', 'wall', [0, H])
	];
	b.point('foot', 'Corner, left end', 'base', [0, 0]);
	const inset = 0.08 * Math.min(L, W);
	b.flat('flat-base', 'Base flatness', 'base', [inset, inset], [L - 2 * inset, W - 2 * inset]);
	b.square('square', 'Squareness (diagonals)', corners, Math.max(L, Math.hypot(W, H)));
	b.twist('twist', 'Twist, edge to edge', corners, Math.max(L, Math.hypot(W, H)));
	return b.done(['c-bl', 'c-br', 'foot']);
}

export const cornerPanel: FamilyRecord = {
	name: 'Corner of two plates',
	says: 'Two plates edge to edge, square to one another',
	sizes: ['lengthMm', 'baseMm', 'heightMm'],
	fields: [
		length('lengthMm', 'Length of the corner', 20, 4000),
		length('baseMm', 'Width of the base', 20, 4000),
		length('heightMm', 'Height of the wall', 20, 2000)
	],
	defaults: { ...SHEET, lengthMm: 400, baseMm: 160, heightMm: 120 },
	fits: [],
	make
};
