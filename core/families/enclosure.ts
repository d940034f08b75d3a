/** Enclosure folded from one blank: back, four walls, flange inwards round the opening; corner and mitre seams; a plate on two legs inside. */
import type { Vec2 } from '../geometry/vec';
import { Builder, facePoints, rect } from './builder';
import { SHEET, clear, flag, length, most, noneOr, type FamilyRecord, type Generated } from './family';

export interface Enclosure {
	widthMm: number;
	heightMm: number;
	depthMm: number;
	thicknessMm: number;
	material: string;
	/** flange inwards round the opening */
	flangeMm: number;
	bendRadiusMm: number;
	/** plate inside, standing off the back on two folded legs; 0 for none */
	standOffMm: number;
	/** ring welded inside the flange for a door to close on */
	doorFrame: boolean;
}

// eslint-disable-next-line max-lines-per-function -- a drawing, told from its first sheet to its last feature
function make(p: Enclosure): Generated {
	const t = p.thicknessMm;
	const [L, W, D, F] = [p.widthMm + t, p.heightMm + t, p.depthMm + t / 2, p.flangeMm];
	const b = new Builder(p.material, t);
	const bend = (id: string, from: Vec2, to: Vec2) => ({ id, from, to, angleDeg: 90, insideRadiusMm: p.bendRadiusMm });
	// each wall with its flange, mitred at 45 degrees
	b.part(
		'body',
		'Body',
		[
			[0, 0],
			[0, -D],
			[F, -D - F],
			[L - F, -D - F],
			[L, -D],
			[L, 0],
			[L + D, 0],
			[L + D + F, F],
			[L + D + F, W - F],
			[L + D, W],
			[L, W],
			[L, W + D],
			[L - F, W + D + F],
			[F, W + D + F],
			[0, W + D],
			[0, W],
			[-D, W],
			[-D - F, W - F],
			[-D - F, F],
			[-D, 0]
		],
		{ origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] },
		{
			base: [L / 2, W / 2],
			bends: [
				bend('lower', [0, 0], [L, 0]),
				bend('right', [L, 0], [L, W]),
				bend('upper', [0, W], [L, W]),
				bend('left', [0, 0], [0, W]),
				bend('lower-flange', [0, -D], [L, -D]),
				bend('right-flange', [L + D, 0], [L + D, W]),
				bend('upper-flange', [0, W + D], [L, W + D]),
				bend('left-flange', [-D, 0], [-D, W])
			]
		}
	);
	const corners: [string, string, Vec2, Vec2, Vec2, Vec2, Vec2, Vec2][] = [
		['ll', 'lower left', [0, 0], [0, -D], [F, -D - F], [0, 0], [-D, 0], [-D - F, F]],
		['lr', 'lower right', [L, 0], [L, -D], [L - F, -D - F], [L, 0], [L + D, 0], [L + D + F, F]],
		['ur', 'upper right', [L, W], [L, W + D], [L - F, W + D + F], [L, W], [L + D, W], [L + D + F, W - F]],
		['ul', 'upper left', [0, W], [0, W + D], [F, W + D + F], [0, W], [-D, W], [-D - F, W - F]]
	];
	for (const [id, name, a0, a1, a2, b0, b1, b2] of corners) {
		b.joint(`c-${id}`, `Corner, ${name}`, 'corner-edge', ['body', [a0, a1]], ['body', [b0, b1]]);
		b.joint(`m-${id}`, `Flange mitre, ${name}`, 'butt', ['body', [a1, a2]], ['body', [b1, b2]], { weldSide: 'back' });
	}
	if (p.standOffMm > 0) {
		const s = p.standOffMm;
		const [w, h] = [0.7 * L, 0.7 * W];
		const [x0, y0] = [(L - w) / 2, (W - h) / 2];
		b.part(
			'plate',
			'Mounting plate',
			rect(0, -s, w, h + s),
			{ origin: [x0, y0, s], x: [1, 0, 0], y: [0, 1, 0] },
			{
				base: [w / 2, h / 2],
				bends: [0, h].map((y, i) => ({ id: `leg-${i + 1}`, from: [0, y], to: [w, y], angleDeg: -90, insideRadiusMm: p.bendRadiusMm }))
			}
		);
		for (const [i, y] of [-s, h + s].entries())
			b.joint(
				`leg-${i + 1}`,
				`Plate leg ${i + 1} to back`,
				'tee',
				[
					'body',
					[
						[x0, y0 + i * h],
						[x0 + w, y0 + i * h]
					]
				],
				[
					'plate',
					[
						[0, y],
						[w, y]
					]
				],
				{ penetration: 'partial' }
			);
	}
	if (p.doorFrame) {
		const f = 15;
		const [w, h] = [L - 2 * F, W - 2 * F];
		// four strips standing on the flange's inner edge, towards the door
		const sides: [string, string, Vec2, Vec2, number, [number, number, number], [number, number, number]][] = [
			['lower', 'Lower', [F, -D - F], [L - F, -D - F], w, [F, F, D], [1, 0, 0]],
			['upper', 'Upper', [F, W + D + F], [L - F, W + D + F], w, [F, W - F, D], [1, 0, 0]],
			['left', 'Left', [-D - F, F], [-D - F, W - F], h, [F, F, D], [0, 1, 0]],
			['right', 'Right', [L + D + F, F], [L + D + F, W - F], h, [L - F, F, D], [0, 1, 0]]
		];
		for (const [id, name, from, to, length, origin, x] of sides) {
			b.part(`frame-${id}`, `${name} door strip`, rect(0, 0, length, f), { origin, x, y: [0, 0, 1] });
			b.joint(
				`f-${id}`,
				`${name} door strip to flange`,
				'corner-edge',
				['body', [from, to]],
				[
					`frame-${id}`,
					[
						[0, 0],
						[length, 0]
					]
				]
			);
		}
		const strip = (side: string, far: boolean): [string, Vec2[]] => {
			const length = side === 'lower' || side === 'upper' ? w : h;
			const x = far ? length : 0;
			return [
				`frame-${side}`,
				[
					[x, 0],
					[x, f]
				]
			];
		};
		b.joint('fc-ll', 'Door frame corner, lower left', 'corner-edge', strip('lower', false), strip('left', false));
		b.joint('fc-lr', 'Door frame corner, lower right', 'corner-edge', strip('lower', true), strip('right', false));
		b.joint('fc-ur', 'Door frame corner, upper right', 'corner-edge', strip('upper', true), strip('right', true));
		b.joint('fc-ul', 'Door frame corner, upper left', 'corner-edge', strip('upper', false), strip('left', true));
	}
	const opening: [string, string, string, string] = [
		b.point('o-ll', 'Opening, lower left', 'body', [F, -D - F]),
		b.point('o-lr', 'Opening, lower right', 'body', [L - F, -D - F]),
		b.point('o-ur', 'Opening, upper right', 'body', [L - F, W + D + F]),
		b.point('o-ul', 'Opening, upper left', 'body', [F, W + D + F])
	];
	b.point('o-lm', 'Opening, lower middle', 'body', [L / 2, -D - F]);
	b.point('o-um', 'Opening, upper middle', 'body', [L / 2, W + D + F]);
	b.point('b-ll', 'Back, lower left', 'body', [0, 0]);
	b.point('b-lr', 'Back, lower right', 'body', [L, 0]);
	b.point('b-ul', 'Back, upper left', 'body', [0, W]);
	const back = facePoints([L / 2, W / 2], Math.min(L, W) / 5).map((at, i) => b.point(`back-${i + 1}`, `Back, face point ${i + 1}`, 'body', at));
	const wall = facePoints([L / 2, -D / 2], Math.min(L, D) / 5).map((at, i) =>
		b.point(`wall-${i + 1}`, `Lower wall, face point ${i + 1}`, 'body', at)
	);
	b.square('opening-square', 'Opening squareness (diagonals)', opening, Math.max(L, W));
	b.length('opening-height', 'Opening height at the middle', ['o-lm', 'o-um'], W - 2 * F);
	b.twist('opening-twist', 'Opening twist', opening, Math.max(L, W));
	b.straight('flange-lower', 'Lower flange edge straightness', 'body', [opening0(F, D), [L - F, -D - F]], L);
	const inset = 0.08 * Math.min(L, W);
	b.flat('back-flat', 'Back flatness', 'body', [inset, inset], [L - 2 * inset, W - 2 * inset]);
	b.angle('wall-angle', 'Lower wall to back', back, wall, D);
	return b.done(['b-ll', 'b-lr', 'b-ul'], 'c-ll');
}

const opening0 = (F: number, D: number): Vec2 => [F, -D - F];

export const enclosure: FamilyRecord = {
	name: 'Enclosure',
	says: 'Folded box with a flanged opening, mounting plate and door frame',
	sizes: ['widthMm', 'heightMm', 'depthMm'],
	fields: [
		clear('widthMm', 'Width', 60, 3000, 2),
		clear('heightMm', 'Height', 60, 3000, 2),
		length('depthMm', 'Depth inside', 20, 1000),
		length('flangeMm', 'Flange round the opening', 5, 200, 'inwards'),
		length('bendRadiusMm', 'Inside bend radius', 0, 50),
		length('standOffMm', 'Mounting plate off the back', 0, 500, '0 for none'),
		flag('doorFrame', 'Door frame on the flange')
	],
	defaults: { ...SHEET, widthMm: 400, heightMm: 500, depthMm: 160, flangeMm: 25, bendRadiusMm: 2, standOffMm: 0, doorFrame: false },
	fits: [
		most('flangeMm', (p) => 0.3 * Math.min(p.widthMm, p.heightMm), 'the flange must leave an opening'),
		noneOr('standOffMm', (p) => Math.max(3, 2 * p.thicknessMm)),
		most('standOffMm', (p) => 0.7 * p.depthMm, 'the plate stands inside')
	],
	make
};
