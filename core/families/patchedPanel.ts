/** A patch let into a hole, flush. */
import { distance2, type Vec2 } from '../geometry/vec';
import { Builder, circle, closed, rect } from './builder';
import { SHEET, flag, length, most, type FamilyRecord, type Generated, type Sheet } from './family';

/** A handling stick wants this much patch under it, mm. */
const STICK_PATCH = 40;

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

function make(p: PatchedPanel): Generated {
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

export const patchedPanel: FamilyRecord = {
	name: 'Patched panel',
	says: 'A patch let into a hole, flush',
	sizes: ['widthMm', 'lengthMm'],
	fields: [
		length('widthMm', 'Width of the panel', 60, 4000),
		length('lengthMm', 'Length of the panel', 60, 4000),
		{ kind: 'word', name: 'shape', label: 'Patch', options: { round: 'round', rectangular: 'rectangular, round corners' } },
		length('patchMm', 'Diameter or width of the patch', 20, 2000),
		length('patchLengthMm', 'Length of the patch', 20, 2000, undefined, ['shape', 'rectangular']),
		flag('stick', 'Handling stick on the patch')
	],
	defaults: { ...SHEET, widthMm: 400, lengthMm: 400, shape: 'round', patchMm: 160, patchLengthMm: 160, stick: false },
	fits: [
		{
			field: 'patchMm',
			fits: (p) => !p.stick || p.patchMm >= STICK_PATCH,
			allowed: () => `must be at least ${STICK_PATCH} mm for a handling stick to be tacked across it`
		},
		{
			field: 'patchLengthMm',
			fits: (p) => !p.stick || String(p.shape) !== 'rectangular' || p.patchLengthMm >= STICK_PATCH,
			allowed: () => `must be at least ${STICK_PATCH} mm for a handling stick to be tacked across it`
		},
		most('patchMm', (p) => 0.8 * (String(p.shape) === 'round' ? Math.min(p.widthMm, p.lengthMm) : p.widthMm), 'the panel must reach round the patch'),
		most(
			'patchLengthMm',
			(p) => 0.8 * p.lengthMm,
			'the panel must reach round the patch',
			(p) => String(p.shape) === 'rectangular'
		)
	],
	make
};
