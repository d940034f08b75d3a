/** Trough, tray or tank: a bottom and four walls, from one to five blanks, with what is fitted to it (tankFittings.ts). Sizes given are inside; the layout is mid-surface. */
import type { Vec2, Vec3 } from '../geometry/vec';
import { angleTolerance, formTolerance, linearTolerance } from '../measure/iso13920';
import type { AnyFeature, Bend, Joint, NamedPoint, Part } from '../document/schema';
import { rect } from './builder';
import { fitTank } from './tankFittings';
import type { OpenTrough } from './troughSizes';
import { SHEET, apart, clear, count, flag, length, most, noneOr, type FamilyRecord, type Generated } from './family';

// eslint-disable-next-line max-lines-per-function -- a drawing, told from its first sheet to its last feature
function make(p: OpenTrough): Generated {
	const t = p.thicknessMm;
	const [L, W, D] = [p.lengthMm + t, p.widthMm + t, p.depthMm + t / 2];
	const F = p.rimFlangeMm;
	const H = D + F;
	const parts: Part[] = [];
	const joints: Joint[] = [];
	const bend = (id: string, from: Vec2, to: Vec2, angleDeg: number): Bend => ({ id, from, to, angleDeg, insideRadiusMm: p.bendRadiusMm });
	const part = (id: string, name: string, outline: Vec2[], bends: Bend[], base: Vec2, origin: Vec3, x: Vec3, y: Vec3) =>
		parts.push({ id, name, material: p.material, thicknessMm: t, outline, holes: [], bends, base, frame: { origin, x, y } });
	const corner = (id: string, name: string, a: string, pathA: Vec2[], b: string, pathB: Vec2[]) =>
		joints.push({
			id,
			name,
			type: 'corner-edge',
			a: { part: a, path: pathA },
			b: { part: b, path: pathB },
			gapMm: 0,
			gapMeasured: false,
			presetDeg: 0,
			penetration: 'full',
			filler: false,
			weldSide: 'front',
			settings: 'main'
		});
	const middle: Vec2 = [L / 2, W / 2];
	// where the walls' layouts are: [part, its layout point at (along wall, height)]
	let wall: Record<'front' | 'back' | 'left' | 'right', { part: string; at: (along: number, height: number) => Vec2 }>;
	if (p.body === 'cross-blank') {
		const bends = [
			bend('front', [0, 0], [L, 0], 90),
			bend('right', [L, 0], [L, W], 90),
			bend('back', [0, W], [L, W], 90),
			bend('left', [0, 0], [0, W], 90)
		];
		if (F > 0)
			bends.push(
				bend('front-rim', [0, -D], [L, -D], -90),
				bend('right-rim', [L + D, 0], [L + D, W], -90),
				bend('back-rim', [0, W + D], [L, W + D], -90),
				bend('left-rim', [-D, 0], [-D, W], -90)
			);
		part(
			'body',
			'Body',
			[
				[0, -H],
				[L, -H],
				[L, 0],
				[L + H, 0],
				[L + H, W],
				[L, W],
				[L, W + H],
				[0, W + H],
				[0, W],
				[-H, W],
				[-H, 0],
				[0, 0]
			],
			bends,
			middle,
			[0, 0, 0],
			[1, 0, 0],
			[0, 1, 0]
		);
		corner(
			'c1',
			'Corner 1 (front left)',
			'body',
			[
				[0, 0],
				[0, -D]
			],
			'body',
			[
				[0, 0],
				[-D, 0]
			]
		);
		corner(
			'c2',
			'Corner 2 (front right)',
			'body',
			[
				[L, 0],
				[L, -D]
			],
			'body',
			[
				[L, 0],
				[L + D, 0]
			]
		);
		corner(
			'c3',
			'Corner 3 (back right)',
			'body',
			[
				[L, W],
				[L, W + D]
			],
			'body',
			[
				[L, W],
				[L + D, W]
			]
		);
		corner(
			'c4',
			'Corner 4 (back left)',
			'body',
			[
				[0, W],
				[0, W + D]
			],
			'body',
			[
				[0, W],
				[-D, W]
			]
		);
		wall = {
			front: { part: 'body', at: (s, h) => [s, -h] },
			back: { part: 'body', at: (s, h) => [s, W + h] },
			left: { part: 'body', at: (s, h) => [-h, s] },
			right: { part: 'body', at: (s, h) => [L + h, s] }
		};
	} else {
		const folded = p.body === 'u-body';
		if (folded) {
			const bends = [bend('front', [0, 0], [L, 0], 90), bend('back', [0, W], [L, W], 90)];
			if (F > 0) bends.push(bend('front-rim', [0, -D], [L, -D], -90), bend('back-rim', [0, W + D], [L, W + D], -90));
			part('body', 'Body', rect(0, -H, L, W + H), bends, middle, [0, 0, 0], [1, 0, 0], [0, 1, 0]);
		} else {
			part('bottom', 'Bottom', rect(0, 0, L, W), [], middle, [0, 0, 0], [1, 0, 0], [0, 1, 0]);
			const rim = (length: number) => (F > 0 ? [bend('rim', [0, D], [length, D], -90)] : []);
			// long sides: layout x along the trough, y up, front (inside) facing the middle
			part('side-front', 'Front side', rect(0, 0, L, H), rim(L), [L / 2, D / 2], [L, 0, 0], [-1, 0, 0], [0, 0, 1]);
			part('side-back', 'Back side', rect(0, 0, L, H), rim(L), [L / 2, D / 2], [0, W, 0], [1, 0, 0], [0, 0, 1]);
		}
		const endRim = F > 0 ? [bend('rim', [0, D], [W, D], -90)] : [];
		part('end-left', 'Left end', rect(0, 0, W, H), endRim, [W / 2, D / 2], [0, 0, 0], [0, 1, 0], [0, 0, 1]);
		part(
			'end-right',
			'Right end',
			rect(0, 0, W, H),
			F > 0 ? [bend('rim', [0, D], [W, D], -90)] : [],
			[W / 2, D / 2],
			[L, W, 0],
			[0, -1, 0],
			[0, 0, 1]
		);
		wall = {
			front: folded ? { part: 'body', at: (s, h) => [s, -h] } : { part: 'side-front', at: (s, h) => [L - s, h] },
			back: folded ? { part: 'body', at: (s, h) => [s, W + h] } : { part: 'side-back', at: (s, h) => [s, h] },
			left: { part: 'end-left', at: (s, h) => [s, h] },
			right: { part: 'end-right', at: (s, h) => [W - s, h] }
		};
		const floor = folded ? 'body' : 'bottom';
		const line = (w: keyof typeof wall, from: [number, number], to: [number, number]): Vec2[] => [wall[w].at(...from), wall[w].at(...to)];
		if (!folded) {
			corner(
				'bf',
				'Bottom to front',
				floor,
				[
					[0, 0],
					[L, 0]
				],
				'side-front',
				line('front', [0, 0], [L, 0])
			);
			corner(
				'bb',
				'Bottom to back',
				floor,
				[
					[0, W],
					[L, W]
				],
				'side-back',
				line('back', [0, 0], [L, 0])
			);
		}
		corner(
			'bl',
			'Bottom to left end',
			floor,
			[
				[0, 0],
				[0, W]
			],
			'end-left',
			line('left', [0, 0], [W, 0])
		);
		corner(
			'br',
			'Bottom to right end',
			floor,
			[
				[L, 0],
				[L, W]
			],
			'end-right',
			line('right', [0, 0], [W, 0])
		);
		corner('lf', 'Left end to front', wall.front.part, line('front', [0, 0], [0, D]), 'end-left', line('left', [0, 0], [0, D]));
		corner('lb', 'Left end to back', wall.back.part, line('back', [0, 0], [0, D]), 'end-left', line('left', [W, 0], [W, D]));
		corner('rf', 'Right end to front', wall.front.part, line('front', [L, 0], [L, D]), 'end-right', line('right', [0, 0], [0, D]));
		corner('rb', 'Right end to back', wall.back.part, line('back', [L, 0], [L, D]), 'end-right', line('right', [W, 0], [W, D]));
	}
	const floor = p.body === 'five-plates' ? 'bottom' : 'body';
	const points: NamedPoint[] = [];
	const point = (id: string, name: string, partId: string, at: Vec2) => {
		points.push({ id, name, part: partId, at });
		return id;
	};
	const rim = (w: keyof typeof wall, s: number, id: string, name: string) => point(id, name, wall[w].part, wall[w].at(s, D));
	rim('front', 0, 'rim-fl', 'Rim, front left');
	rim('front', L, 'rim-fr', 'Rim, front right');
	rim('back', L, 'rim-br', 'Rim, back right');
	rim('back', 0, 'rim-bl', 'Rim, back left');
	rim('front', L / 2, 'rim-fm', 'Rim, front middle');
	rim('back', L / 2, 'rim-bm', 'Rim, back middle');
	point('floor-fl', 'Floor, front left', floor, [0, 0]);
	point('floor-fr', 'Floor, front right', floor, [L, 0]);
	point('floor-br', 'Floor, back right', floor, [L, W]);
	point('floor-bl', 'Floor, back left', floor, [0, W]);
	point('fold-f', 'Front wall foot', wall.front.part, wall.front.at(L * 0.35, 0));
	point('fold-f2', 'Front wall foot, second', wall.front.part, wall.front.at(L * 0.65, 0));
	point('wall-f', 'Front wall, half up', wall.front.part, wall.front.at(L / 2, D * 0.8));
	point('floor-m1', 'Floor near front fold', floor, [L * 0.35, W * 0.1]);
	point('floor-m2', 'Floor near front fold, second', floor, [L * 0.65, W * 0.1]);
	point('floor-m3', 'Floor, towards middle', floor, [L / 2, W * 0.45]);
	const inset = Math.min(L, W) * 0.08;
	const linear = (nominal: number) => {
		const tol = linearTolerance('B', Math.min(4000, nominal));
		return { upper: tol, lower: -tol, source: 'ISO 13920-B' };
	};
	const bySize = (size: number) => ({ upper: formTolerance('F', Math.min(4000, size)), source: 'ISO 13920-F' });
	const angle = angleTolerance('B', D);
	const features: AnyFeature[] = [
		{
			id: 'rim-front',
			name: 'Front rim straightness',
			kind: 'straightness',
			part: wall.front.part,
			path: [wall.front.at(0, D), wall.front.at(L, D)],
			n: 9,
			tolerance: bySize(L)
		},
		{
			id: 'rim-back',
			name: 'Back rim straightness',
			kind: 'straightness',
			part: wall.back.part,
			path: [wall.back.at(0, D), wall.back.at(L, D)],
			n: 9,
			tolerance: bySize(L)
		},
		{ id: 'mouth-width', name: 'Mouth width at mid-length', kind: 'length', points: ['rim-fm', 'rim-bm'], over: 'inside', tolerance: linear(W) },
		{ id: 'mouth-length', name: 'Mouth length along the front', kind: 'length', points: ['rim-fl', 'rim-fr'], over: 'inside', tolerance: linear(L) },
		{
			id: 'mouth-square',
			name: 'Mouth squareness (diagonals)',
			kind: 'squareness',
			points: ['rim-fl', 'rim-fr', 'rim-br', 'rim-bl'],
			over: 'inside',
			tolerance: { upper: linear(L).upper, source: 'ISO 13920-B, as a length' }
		},
		{
			id: 'wall-angle',
			name: 'Front wall to floor',
			kind: 'angle',
			faceA: ['floor-m1', 'floor-m2', 'floor-m3'],
			faceB: ['fold-f', 'fold-f2', 'wall-f'],
			tolerance: { upper: angle, lower: -angle, source: 'ISO 13920-B' }
		},
		{ id: 'rim-twist', name: 'Rim twist (rock on a plate)', kind: 'twist', points: ['rim-fl', 'rim-fr', 'rim-br', 'rim-bl'], tolerance: bySize(L) },
		{
			id: 'floor-flat',
			name: 'Floor flatness',
			kind: 'flatness',
			part: floor,
			at: [inset, inset],
			size: [L - 2 * inset, W - 2 * inset],
			nx: 5,
			ny: 4,
			tolerance: bySize(Math.max(L, W))
		}
	];
	const made = { parts, joints, points, features, datum: { origin: 'floor-fl', axis: 'floor-fr', plane: 'floor-bl' }, trueJoint: joints[0].id };
	fitTank(made, p, { wall, floor, L, W, D });
	return made;
}

export const openTrough: FamilyRecord = {
	name: 'Trough, tray or tank',
	isFilled: true,
	says: 'A bottom and four walls; lid, baffles, port and stiffeners if asked for',
	sizes: ['lengthMm', 'widthMm', 'depthMm'],
	fields: [
		clear('lengthMm', 'Length', 20, 4000, 2),
		clear('widthMm', 'Width', 20, 4000, 2),
		clear('depthMm', 'Depth', 10, 2000, 1),
		length('rimFlangeMm', 'Rim flange outward', 0, 200, '0 for none'),
		{
			kind: 'word',
			name: 'body',
			label: 'Made from',
			options: { 'u-body': 'Folded body, two ends', 'cross-blank': 'One folded blank, four corners', 'five-plates': 'Five plates, nothing folded' }
		},
		length('bendRadiusMm', 'Inside bend radius', 0, 50),
		count('baffles', 'Baffles inside', 0, 6),
		length('baffleHeightMm', 'Baffle height', 5, 2000, 'at most the depth', ['baffles', 1, 2, 3, 4, 5, 6]),
		length('crossBreakMm', 'Cross-break in the floor', 0, 20, 'height of the crossing, 0 for none'),
		count('stiffeners', 'Stiffeners under the floor', 0, 6),
		length('portMm', 'Port in the right end, diameter', 0, 1000, 'outside of its socket, 0 for none'),
		length('sumpMm', 'Sump in the floor, side', 0, 1000, '0 for none'),
		flag('lid', 'Flat lid, welded on')
	],
	defaults: {
		...SHEET,
		lengthMm: 600,
		widthMm: 300,
		depthMm: 180,
		body: 'u-body',
		rimFlangeMm: 20,
		bendRadiusMm: 2,
		baffles: 0,
		baffleHeightMm: 120,
		crossBreakMm: 0,
		stiffeners: 0,
		portMm: 0,
		sumpMm: 0,
		lid: false
	},
	fits: [
		most(
			'baffleHeightMm',
			(p) => p.depthMm,
			'a baffle stands inside',
			(p) => p.baffles > 0
		),
		noneOr('rimFlangeMm', (p) => Math.max(3, 2 * p.thicknessMm)),
		noneOr('portMm', (p) => Math.max(12, 6 * p.thicknessMm)),
		noneOr('sumpMm', (p) => Math.max(30, 10 * p.thicknessMm)),
		most('portMm', (p) => 0.7 * Math.min(p.widthMm, p.depthMm), 'the port must leave wall round it'),
		most(
			'sumpMm',
			(p) => Math.min(0.35 * p.widthMm, 0.35 * p.lengthMm, (0.6 * p.lengthMm) / (p.baffles + 1)),
			'the sump must leave floor round it, in the last bay'
		),
		{
			field: 'baffleHeightMm',
			fits: (p) => p.baffles === 0 || p.baffleHeightMm >= 2 * p.thicknessMm,
			allowed: (p) => `must be at least ${2 * p.thicknessMm} mm, twice the thickness`
		},
		apart('baffles', 'bays'),
		apart('stiffeners', 'stiffeners')
	],
	make
};
