/** Flat work with something on it: two sheets lapped, a patch let into a hole, stiffeners standing on a plate. */
import { distance2, type Vec2 } from '../geometry/vec';
import { Builder, circle, closed, facePoints, rect } from './builder';
import type { Generated } from './family';

interface Sheet {
	thicknessMm: number;
	material: string;
}

export interface LapPanel extends Sheet {
	widthsMm: number[];
	lengthMm: number;
	overlapMm: number;
	/** fillet along the upper sheet's edge only, or along both edges */
	bothEdges: boolean;
}

export function lapPanel(p: LapPanel): Generated {
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

export const PATCH_SHAPES = ['round', 'rectangular'] as const;
export interface PatchedPanel extends Sheet {
	widthMm: number;
	lengthMm: number;
	shape: (typeof PATCH_SHAPES)[number];
	/** diameter, or width and length */
	patchMm: number;
	patchLengthMm: number;
	/** a bar tacked on to hold the patch by, taken off once it is tacked in */
	stick: boolean;
}

export function patchedPanel(p: PatchedPanel): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const [W, L] = [p.widthMm, p.lengthMm];
	const [cx, cy] = [W / 2, L / 2];
	const [hw, hl] = [p.patchMm / 2, p.patchLengthMm / 2];
	// a rectangle gets round corners: a sharp corner cracks
	const r = Math.min(hw, hl) / 4;
	const ring: Vec2[] = p.shape === 'round' ? circle([cx, cy], hw) : rounded([cx, cy], hw, hl, r);
	const here = { origin: [0, 0, 0] as [number, number, number], x: [1, 0, 0] as [number, number, number], y: [0, 1, 0] as [number, number, number] };
	b.part('panel', 'Panel', rect(0, 0, W, L), here, { holes: [ring] });
	b.part('patch', 'Patch', ring, here);
	b.joint('ring', 'Round the patch', 'butt', ['panel', closed(ring)], ['patch', closed(ring)]);
	const corners: [string, string, string, string] = [
		b.point('c-bl', 'Corner, datum left', 'panel', [0, 0]),
		b.point('c-br', 'Corner, datum right', 'panel', [W, 0]),
		b.point('c-tr', 'Corner, far right', 'panel', [W, L]),
		b.point('c-tl', 'Corner, far left', 'panel', [0, L])
	];
	const s = 0.6 * Math.min(hw, p.shape === 'round' ? hw : hl);
	b.flat('patch-flat', 'Patch flatness', 'patch', [cx - s, cy - s], [2 * s, 2 * s], 4, 4);
	b.straight(
		'edge',
		'Long edge straightness',
		'panel',
		W > L
			? [
					[0, 0],
					[W, 0]
				]
			: [
					[0, 0],
					[0, L]
				],
		Math.max(W, L)
	);
	b.square('square', 'Squareness (diagonals)', corners, Math.max(W, L));
	b.twist('twist', 'Twist of the panel', corners, Math.max(W, L));
	const made = b.done(['c-bl', 'c-br', 'c-tl']);
	if (p.stick) {
		const reach = 0.5 * s;
		made.holdDowns = [
			{
				id: 'stick',
				name: 'Handling stick on the patch',
				kind: 'strongback',
				life: { on: 'start', off: 'after-tacks' },
				part: 'patch',
				path: [
					[cx - reach, cy],
					[cx + reach, cy]
				],
				...STICK,
				pitchMm: Math.max(5, 2 * reach)
			}
		];
		made.checks = [
			{ id: 'stick', text: 'Handling stick tacked across the middle of the patch; knock it off once the patch is tacked in, grind flush' }
		];
	}
	return made;
}

/** An 8 mm round bar of steel, lying on the sheet. */
const STICK = { areaMm2: 50, iOutMm4: 200, iInMm4: 200, torsionMm4: 400, eModulusMPa: 200_000, offsetMm: 5 };

/** Rectangle with round corners, anticlockwise from the middle of its right side. */
export function rounded(centre: Vec2, halfWidth: number, halfLength: number, radius: number): Vec2[] {
	const out: Vec2[] = [[centre[0] + halfWidth, centre[1]]];
	for (const [sx, sy, from] of [
		[1, 1, 0],
		[-1, 1, 90],
		[-1, -1, 180],
		[1, -1, 270]
	])
		for (let i = 0; i <= 4; i++) {
			const a = ((from + (90 * i) / 4) * Math.PI) / 180;
			const p: Vec2 = [centre[0] + sx * (halfWidth - radius) + radius * Math.cos(a), centre[1] + sy * (halfLength - radius) + radius * Math.sin(a)];
			if (distance2(p, out[out.length - 1]) > 1e-6) out.push(p);
		}
	return out;
}

export interface StiffenedPlate extends Sheet {
	lengthMm: number;
	widthMm: number;
	stiffenerHeightMm: number;
	stiffeners: number;
	/** fillets on both sides of each stiffener */
	bothSides: boolean;
}

export function stiffenedPlate(p: StiffenedPlate): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const [L, W, H] = [p.lengthMm, p.widthMm, p.stiffenerHeightMm];
	b.part('plate', 'Plate', rect(0, 0, L, W), { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] });
	for (let i = 1; i <= p.stiffeners; i++) {
		const y = (W * i) / (p.stiffeners + 1);
		const name = p.stiffeners === 1 ? 'Web' : `Stiffener ${i}`;
		b.part(`rib-${i}`, name, rect(0, 0, L, H), { origin: [0, y, 0], x: [1, 0, 0], y: [0, 0, 1] });
		const sides: ['front', 'back'] = ['front', 'back'];
		for (const [k, side] of sides.slice(0, p.bothSides ? 2 : 1).entries())
			b.joint(
				`t-${i}${'ab'[k]}`,
				`${name}, ${side === 'front' ? 'near' : 'far'} side`,
				'tee',
				[
					`rib-${i}`,
					[
						[0, 0],
						[L, 0]
					]
				],
				[
					'plate',
					[
						[0, y],
						[L, y]
					]
				],
				{ penetration: 'partial', weldSide: side }
			);
		// on the bay before the stiffener
		const bay = W / (p.stiffeners + 1);
		const foot = facePoints([L / 2, y - bay / 2], Math.min(L / 8, W / 8, 0.4 * bay)).map((at, q) =>
			b.point(`p-${i}-${q + 1}`, `Plate beside ${name}, point ${q + 1}`, 'plate', at)
		);
		const web = facePoints([L / 2, H / 2], Math.min(L, H) / 3).map((at, q) =>
			b.point(`w-${i}-${q + 1}`, `${name}, face point ${q + 1}`, `rib-${i}`, at)
		);
		b.angle(`lean-${i}`, `${name} to plate`, foot, web, H);
	}
	const corners: [string, string, string, string] = [
		b.point('c-bl', 'Corner, datum left', 'plate', [0, 0]),
		b.point('c-br', 'Corner, datum right', 'plate', [L, 0]),
		b.point('c-tr', 'Corner, far right', 'plate', [L, W]),
		b.point('c-tl', 'Corner, far left', 'plate', [0, W])
	];
	b.straight(
		'edge',
		'Plate edge straightness',
		'plate',
		[
			[0, 0],
			[L, 0]
		],
		L
	);
	const inset = 0.06 * Math.min(L, W);
	b.flat('flat', 'Plate flatness', 'plate', [inset, inset], [L - 2 * inset, W - 2 * inset]);
	b.twist('twist', 'Twist of the plate', corners, Math.max(L, W));
	return b.done(['c-bl', 'c-br', 'c-tl']);
}
