/** Bars standing on a plate. */
import { Builder, facePoints, rect } from './builder';
import { SHEET, count, flag, length, type FamilyRecord, type Generated, type Sheet } from './family';

export interface StiffenedPlate extends Sheet {
	lengthMm: number;
	widthMm: number;
	stiffenerHeightMm: number;
	stiffeners: number;
	/** fillets on both sides of each stiffener */
	bothSides: boolean;
}

function make(p: StiffenedPlate): Generated {
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

export const stiffenedPlate: FamilyRecord = {
	name: 'Tee or stiffened plate',
	says: 'Bars standing on a plate',
	sizes: ['lengthMm', 'widthMm', 'stiffenerHeightMm'],
	fields: [
		length('lengthMm', 'Length', 40, 4000),
		length('widthMm', 'Width of the plate', 40, 4000),
		length('stiffenerHeightMm', 'Height of the bars', 10, 500),
		count('stiffeners', 'Bars', 1, 8),
		flag('bothSides', 'Welded on both sides')
	],
	defaults: { ...SHEET, thicknessMm: 2, lengthMm: 400, widthMm: 240, stiffenerHeightMm: 50, stiffeners: 1, bothSides: false },
	fits: [],
	make
};
