/** Two sheets lapped. */
import type { Vec2 } from '../geometry/vec';
import { Builder, facePoints, rect } from './builder';
import { SHEET, flag, length, most, type FamilyRecord, type Generated, type Sheet } from './family';

export interface LapPanel extends Sheet {
	widthsMm: number[];
	lengthMm: number;
	overlapMm: number;
	/** fillet along the upper sheet's edge only, or along both edges */
	bothEdges: boolean;
}

function make(p: LapPanel): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const [w1, w2] = p.widthsMm;
	const [L, o, t] = [p.lengthMm, p.overlapMm, p.thicknessMm];
	const line = (x: number): Vec2[] => [
		[x, 0],
		[x, L]
	];
	b.part('lower', 'Lower sheet', rect(0, 0, w1, L), { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] });
	b.part('upper', 'Upper sheet', rect(0, 0, w2, L), { origin: [w1 - o, 0, t], x: [1, 0, 0], y: [0, 1, 0] });
	b.joint('lap-1', 'Lap seam, upper edge', 'lap', ['lower', line(w1 - o)], ['upper', line(0)], { penetration: 'partial' });
	if (p.bothEdges)
		b.joint('lap-2', 'Lap seam, lower edge', 'lap', ['upper', line(o)], ['lower', line(w1)], { penetration: 'partial', weldSide: 'back' });
	const total = w1 + w2 - o;
	const corners: [string, string, string, string] = [
		b.point('c-bl', 'Corner, datum left', 'lower', [0, 0]),
		b.point('c-br', 'Corner, datum right', 'upper', [w2, 0]),
		b.point('c-tr', 'Corner, far right', 'upper', [w2, L]),
		b.point('c-tl', 'Corner, far left', 'lower', [0, L])
	];
	const face = (part: string, w: number, from: number) =>
		facePoints([from + (w - o) / 2, L / 2], Math.min(w - o, L) / 4).map((at, i) =>
			b.point(`${part}-${i + 1}`, `${part} sheet, face point ${i + 1}`, part, at)
		);
	b.angle('angle', 'Angle across the lap', face('lower', w1, 0), face('upper', w2, o), Math.min(w1, w2));
	b.straight('bow', 'Lap straightness', 'lower', line(w1 - o), L);
	const inset = 0.08 * Math.min(w1, L);
	b.flat('flat-lower', 'Lower sheet flatness', 'lower', [inset, inset], [w1 - o - 2 * inset, L - 2 * inset], 4, 5);
	b.square('square', 'Squareness (diagonals)', corners, Math.max(total, L));
	b.twist('twist', 'Twist of the panel', corners, Math.max(total, L));
	return b.done(['c-bl', 'c-br', 'c-tl']);
}

export const lapPanel: FamilyRecord = {
	name: 'Flat panel, lapped',
	says: 'One sheet over the edge of another',
	sizes: ['widthsMm', 'lengthMm'],
	fields: [
		length('lengthMm', 'Length of the lap', 20, 4000),
		{ kind: 'lengths', name: 'widthsMm', label: 'Sheets', each: 'Width of sheet', min: 30, max: 4000, atLeast: 2, atMost: 2 },
		length('overlapMm', 'Overlap', 5, 500),
		flag('bothEdges', 'Welded along both edges')
	],
	defaults: { ...SHEET, widthsMm: [250, 250], lengthMm: 400, overlapMm: 25, bothEdges: false },
	fits: [most('overlapMm', (p) => 0.5 * Math.min(...(p.widthsMm as unknown as number[])), 'the sheets must reach beyond the lap')],
	make
};
