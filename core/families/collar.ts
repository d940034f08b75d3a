/** A flange ring round a duct or tube. Radii are of the mid-surface. */
import { type Vec2, type Vec3 } from '../geometry/vec';
import { Builder, circle, closed, facePoints, rect } from './builder';
import { line, SIDES } from './socket';
import { SHEET, count, flag, length, most, type FamilyRecord, type Generated, type Sheet } from './family';

export const DUCT_SHAPES = ['round', 'square'] as const;
export const RING_HOLES = ['none', 'drilled', 'bolted'] as const;
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
	/** of the ring itself; 0: as the duct */
	ringThicknessMm: number;
	/** plain, with bolt holes, or bolted down by them on a block while it is welded */
	holes: (typeof RING_HOLES)[number];
	/** how many; their size, and the circle (or square) they lie on, 0 for the middle of the ring */
	bolts: number;
	boltHoleMm: number;
	boltCircleMm: number;
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
	const places = boltPlaces(p);
	b.part(
		'ring',
		'Ring',
		outer,
		{ origin: [0, 0, z], x: [1, 0, 0], y: [0, 1, 0] },
		{ thicknessMm: p.ringThicknessMm || p.thicknessMm, holes: [hole, ...places.map((at) => circle(at, p.boltHoleMm / 2, BOLT_SIDES))] }
	);
	const path = line(0, z, around, z);
	// bolted down by its mating face, whose seam then lies on the block: welded from the back, the duct's end in the block's bore
	const isBolted = p.holes === 'bolted';
	const first = isBolted ? ({ name: 'Ring to duct, back', side: 'back' } as const) : ({ name: 'Ring to duct, mating face', side: 'front' } as const);
	b.joint('seam-1', first.name, 'flange-to-tube', ['ring', closed(hole)], ['duct', path], { penetration: 'partial', weldSide: first.side });
	if (p.bothSides && !isBolted)
		b.joint('seam-2', 'Ring to duct, back', 'flange-to-tube', ['ring', closed(hole)], ['duct', path], { penetration: 'partial', weldSide: 'back' });
	// between two bolts, where there are any
	const m = (r + R) / 2;
	const turn = round && places.length > 0 ? Math.PI / p.bolts : 0;
	const spots = [2, 3, 0, 1].map((k): Vec2 => {
		const a = turn + (k * Math.PI) / 2;
		return [m * Math.cos(a), m * Math.sin(a)];
	});
	const on = spots.map((at, i) => b.point(`face-${i + 1}`, `Ring face at ${90 * i}°`, 'ring', at)) as [string, string, string, string];
	b.twist('ring-flat', 'Ring out of plane (fourth point)', on, 2 * R);
	b.length('ring-dia', 'Across the ring', [on[0], on[2]], 2 * m);
	if (!round) {
		// near its free end, on the face that the base of the layout lies in
		const wall = facePoints([side / 2, 0.3 * z], Math.min(side, z) / 4).map((at, q) =>
			b.point(`wall-${q + 1}`, `Duct, near face, point ${q + 1}`, 'duct', at)
		);
		const foot = on.slice(0, 3) as string[];
		b.angle('lean', 'Duct to ring, near face', foot, wall, z);
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
	}
	const made = b.done([on[0], on[1], on[2]], 'seam-1');
	if (isBolted)
		made.holdDowns = [
			{
				id: 'bolts',
				name: 'Bolts of the ring to the block',
				kind: 'bolts',
				part: 'ring',
				places,
				holeMm: p.boltHoleMm,
				stiffnessNPerMm: 100_000,
				life: { on: 'start', off: 'when-cold' }
			}
		];
	return made;
}

/** Sides of a bolt hole in the layout. */
const BOLT_SIDES = 12;
/** Sheet that must stay round a hole, share of it (common practice: the edge one diameter from the middle; no source). */
const EDGE = 0.5;

/** Half of the circle or square that the bolts lie on, mm. */
const boltReach = (p: Pick<Collar, 'ductMm' | 'thicknessMm' | 'ringMm' | 'boltCircleMm'>) =>
	p.boltCircleMm ? p.boltCircleMm / 2 : (p.ductMm - p.thicknessMm + p.ringMm) / 2;

/** Evenly round the circle, or along the square from its corners. */
function boltPlaces(p: Collar): Vec2[] {
	const reach = boltReach(p);
	return Array.from({ length: p.holes === 'none' ? 0 : p.bolts }, (_, i): Vec2 => {
		if (p.shape === 'round') {
			const a = (2 * Math.PI * i) / p.bolts;
			return [reach * Math.cos(a), reach * Math.sin(a)];
		}
		const s = (8 * reach * i) / p.bolts;
		const side = Math.floor(s / (2 * reach)) % 4;
		const along = s - 2 * reach * side - reach;
		return (
			[
				[along, -reach],
				[reach, along],
				[-along, reach],
				[-reach, -along]
			] as Vec2[]
		)[side];
	});
}

const isPlain = (p: Record<string, unknown>) => p.holes === 'none';
/** Every hole with sheet between it and both edges of the ring. */
const insideRing = (p: Record<string, number>) => {
	const reach = boltReach(p as never);
	const keep = p.boltHoleMm * (0.5 + EDGE);
	return reach - keep >= p.ductMm / 2 && reach + keep <= (p.ductMm - p.thicknessMm) / 2 + p.ringMm;
};

export const collar: FamilyRecord = {
	name: 'Collar ring on a duct',
	says: 'A flange or ring round a duct or tube, with its own thickness and bolt holes',
	sizes: ['ductMm', 'ringMm', 'ductLengthMm'],
	fields: [
		{ kind: 'word', name: 'shape', label: 'Duct', options: { round: 'round', square: 'square' } },
		length('ductMm', 'Outside of the duct', 30, 2000),
		length('ductLengthMm', 'Length of the duct', 30, 2000),
		length('ringMm', 'Width of the ring', 8, 300),
		length('standMm', 'Duct stands through by', 2, 200),
		length('ringThicknessMm', 'Thickness of the ring', 0, 12, '0: as the duct'),
		{
			kind: 'word',
			name: 'holes',
			label: 'Ring',
			options: { none: 'plain', drilled: 'with bolt holes', bolted: 'bolted to a block while it is welded' }
		},
		flag('bothSides', 'Welded on both sides', ['holes', 'none', 'drilled']),
		{ ...count('bolts', 'Bolts', 2, 48), when: ['holes', 'drilled', 'bolted'] },
		length('boltHoleMm', 'Bolt holes, diameter', 3, 40, undefined, ['holes', 'drilled', 'bolted']),
		length('boltCircleMm', 'Bolt circle', 0, 3000, '0: the middle of the ring', ['holes', 'drilled', 'bolted'])
	],
	defaults: {
		...SHEET,
		shape: 'round',
		ductMm: 200,
		ductLengthMm: 150,
		ringMm: 35,
		standMm: 4,
		bothSides: false,
		ringThicknessMm: 0,
		holes: 'none',
		bolts: 8,
		boltHoleMm: 9,
		boltCircleMm: 0
	},
	fits: [
		most('standMm', (p) => 0.5 * p.ductLengthMm, 'the ring sits on the duct'),
		{
			field: 'ringThicknessMm',
			fits: (p) => !p.ringThicknessMm || p.ringThicknessMm >= 0.3,
			allowed: () => 'must be 0 for the duct’s own, or at least 0.3 mm'
		},
		{
			field: 'boltCircleMm',
			fits: (p) => isPlain(p) || !p.boltCircleMm || insideRing(p),
			allowed: (p) =>
				`must keep its holes of ${p.boltHoleMm} mm on the ring with half a hole of sheet beside them: ${Math.ceil(p.ductMm + 2 * p.boltHoleMm)} to ${Math.floor(p.ductMm + 2 * p.ringMm - 2 * p.boltHoleMm - p.thicknessMm)} mm, or 0 for the middle`
		},
		{
			field: 'boltHoleMm',
			fits: (p) => isPlain(p) || p.boltCircleMm > 0 || insideRing(p),
			allowed: (p) =>
				`must leave half a hole of sheet on each side of it: at most ${Math.floor((p.ringMm - p.thicknessMm) / 2)} mm on a ring of ${p.ringMm} mm`
		},
		{
			field: 'bolts',
			fits: (p) => isPlain(p) || (2 * Math.PI * boltReach(p as never)) / p.bolts >= 2 * p.boltHoleMm,
			allowed: (p) =>
				`must be at most ${Math.floor((Math.PI * boltReach(p as never)) / p.boltHoleMm)}: holes of ${p.boltHoleMm} mm, a hole's width between them`
		}
	],
	make
};
