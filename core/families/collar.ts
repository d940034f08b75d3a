/** A flange ring round a duct or tube. Radii are of the mid-surface. */
import { type Vec2, type Vec3 } from '../geometry/vec';
import { Builder, circle, closed, rect } from './builder';
import { line, SIDES } from './socket';
import { SHEET, flag, length, most, type FamilyRecord, type Generated, type Sheet } from './family';

export const DUCT_SHAPES = ['round', 'square'] as const;
export interface Collar extends Sheet {
	shape: (typeof DUCT_SHAPES)[number];
	/** outside diameter or side of the duct */
	ductMm: number;
	ductLengthMm: number;
	/** width of the ring beyond the duct */
	ringMm: number;
	/** the duct stands through the ring by this much */
	standMm: number;
	bothSides: boolean;
}

function make(p: Collar): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const up: Vec3 = [0, 0, 1];
	const r = (p.ductMm - p.thicknessMm) / 2;
	const round = p.shape === 'round';
	const round2 = 2 * Math.PI * r;
	const side = 2 * r;
	const around = round ? round2 : 4 * side;
	const z = p.ductLengthMm - p.standMm;
	const box = rect(0, 0, around, p.ductLengthMm);
	if (round) b.part('duct', 'Duct', box, { origin: [r, 0, 0], x: [0, 1, 0], y: up }, { roll: { hoop: 'x', radiusMm: r }, base: [around / 2, 0] });
	else
		b.part(
			'duct',
			'Duct',
			box,
			{ origin: [-r, -r, 0], x: [1, 0, 0], y: up },
			{
				base: [side / 2, p.ductLengthMm / 2],
				bends: [1, 2, 3].map((k) => ({ id: `edge-${k}`, from: [k * side, 0], to: [k * side, p.ductLengthMm], angleDeg: -90, insideRadiusMm: 2 }))
			}
		);
	b.stock('duct-stock', 'Duct, its own seam', 'duct', line(0, 0, 0, p.ductLengthMm), line(around, 0, around, p.ductLengthMm));
	const hole: Vec2[] = round ? circle([0, 0], r, SIDES, Math.PI) : rect(-r, -r, r, r);
	const R = r + p.ringMm;
	const outer: Vec2[] = round ? circle([0, 0], R, SIDES) : rect(-R, -R, R, R);
	b.part('ring', 'Ring', outer, { origin: [0, 0, z], x: [1, 0, 0], y: [0, 1, 0] }, { holes: [hole] });
	const path = line(0, z, around, z);
	b.joint('seam-1', 'Ring to duct, mating face', 'flange-to-tube', ['ring', closed(hole)], ['duct', path], { penetration: 'partial' });
	if (p.bothSides)
		b.joint('seam-2', 'Ring to duct, back', 'flange-to-tube', ['ring', closed(hole)], ['duct', path], { penetration: 'partial', weldSide: 'back' });
	const m = (r + R) / 2;
	const spots: Vec2[] = [
		[-m, 0],
		[0, -m],
		[m, 0],
		[0, m]
	];
	const on = spots.map((at, i) => b.point(`face-${i + 1}`, `Ring face at ${90 * i}°`, 'ring', at)) as [string, string, string, string];
	b.twist('ring-flat', 'Ring out of plane (fourth point)', on, 2 * R);
	b.length('ring-dia', 'Across the ring', [on[0], on[2]], 2 * m);
	if (!round)
		b.straight(
			'ring-edge',
			'Ring edge straightness',
			'ring',
			[
				[-R, -R],
				[R, -R]
			],
			2 * R
		);
	return b.done([on[0], on[1], on[2]], 'seam-1');
}

export const collar: FamilyRecord = {
	name: 'Collar ring on a duct',
	says: 'A flange ring round a duct or tube',
	sizes: ['ductMm', 'ringMm', 'ductLengthMm'],
	fields: [
		{ kind: 'word', name: 'shape', label: 'Duct', options: { round: 'round', square: 'square' } },
		length('ductMm', 'Outside of the duct', 30, 2000),
		length('ductLengthMm', 'Length of the duct', 30, 2000),
		length('ringMm', 'Width of the ring', 8, 300),
		length('standMm', 'Duct stands through by', 2, 200),
		flag('bothSides', 'Welded on both sides')
	],
	defaults: { ...SHEET, shape: 'round', ductMm: 200, ductLengthMm: 150, ringMm: 35, standMm: 4, bothSides: false },
	fits: [most('standMm', (p) => 0.5 * p.ductLengthMm, 'the ring sits on the duct')],
	make
};
