/** What is fitted to a trough: baffles, cross-break, stiffeners under the floor, a port in the end, a sump, a lid. */
import type { Vec2, Vec3 } from '../geometry/vec';
import type { Part } from '../plan/schema';
import { Builder, circle, closed, rect } from './builder';
import type { Generated } from './family';
import type { OpenTrough } from './openTrough';

export interface Tank {
	/** layout place on each wall, by distance along it and height */
	wall: Record<'front' | 'back' | 'left' | 'right', { part: string; at: (along: number, height: number) => Vec2 }>;
	floor: string;
	/** mid-surface length, width, depth */
	L: number;
	W: number;
	D: number;
}

/** Where the sump's middle is, share of the length: in the last bay of up to two baffles. */
const SUMP = 0.84;

export function fitTank(made: Generated, p: OpenTrough, { wall, floor, L, W, D }: Tank): void {
	const b = new Builder(p.material, p.thicknessMm);
	const flatFloor = made.parts.find((x) => x.id === floor)!;
	for (let i = 1; i <= p.baffles; i++) {
		const x = (L * i) / (p.baffles + 1);
		const h = p.baffleHeightMm;
		const id = `baffle-${i}`;
		b.part(id, `Baffle ${i}`, rect(0, 0, W, h), { origin: [x, 0, 0], x: [0, 1, 0], y: [0, 0, 1] });
		const side = (part: string, from: Vec2, to: Vec2, edge: Vec2[], where: string) =>
			b.joint(`${id}-${where}`, `Baffle ${i} to ${where}`, 'tee', [id, edge], [part, [from, to]], { penetration: 'partial' });
		side(
			floor,
			[x, 0],
			[x, W],
			[
				[0, 0],
				[W, 0]
			],
			'floor'
		);
		side(
			wall.front.part,
			wall.front.at(x, 0),
			wall.front.at(x, h),
			[
				[0, 0],
				[0, h]
			],
			'front'
		);
		side(
			wall.back.part,
			wall.back.at(x, 0),
			wall.back.at(x, h),
			[
				[W, 0],
				[W, h]
			],
			'back'
		);
	}
	if (p.crossBreakMm > 0) {
		// one field, or one between each pair of baffles, clear of the folds
		const fields = p.baffles + 1;
		const clear = 0.04 * Math.min(L / fields, W);
		flatFloor.crossBreaks = Array.from({ length: fields }, (_, i) => {
			const last = p.sumpMm > 0 && i === fields - 1 ? SUMP * L - p.sumpMm / 2 : (L * (i + 1)) / fields;
			const [x0, x1] = [(L * i) / fields + clear, last - clear];
			return { id: `floor-${i + 1}`, corners: rect(x0, clear, x1, W - clear), heightMm: p.crossBreakMm };
		});
	}
	for (let i = 1; i <= p.stiffeners; i++) {
		let x = (L * i) / (p.stiffeners + 1) + (p.baffles % 2 === p.stiffeners % 2 ? 0.02 * L : 0);
		// clear of the sump
		const reach = p.sumpMm / 2 + 0.02 * L;
		if (p.sumpMm > 0 && Math.abs(x - SUMP * L) < reach) x = SUMP * L - reach;
		const [y0, y1] = [0.1 * W, 0.9 * W];
		const h = 25;
		b.part(`rib-${i}`, `Stiffener ${i}`, rect(0, 0, y1 - y0, h), { origin: [x, y0, 0], x: [0, 1, 0], y: [0, 0, -1] });
		b.joint(
			`rib-${i}`,
			`Stiffener ${i} under the floor`,
			'tee',
			[
				`rib-${i}`,
				[
					[0, 0],
					[y1 - y0, 0]
				]
			],
			[
				floor,
				[
					[x, y0],
					[x, y1]
				]
			],
			{ penetration: 'sealing' }
		);
	}
	if (p.portMm > 0) port(b, made, p, wall.right, W, D, L);
	if (p.sumpMm > 0) {
		const s = p.sumpMm;
		const depth = s / 2;
		const [x0, y0] = [SUMP * L - s / 2, W / 2 - s / 2];
		const hole = rect(x0, y0, x0 + s, y0 + s);
		flatFloor.holes.push(hole);
		// its own folded tray, open upwards: seams at its corners and round its mouth
		const fold = (id: string, from: Vec2, to: Vec2) => ({ id, from, to, angleDeg: 90, insideRadiusMm: p.bendRadiusMm });
		b.part(
			'sump',
			'Sump',
			[
				[0, 0],
				[0, -depth],
				[s, -depth],
				[s, 0],
				[s + depth, 0],
				[s + depth, s],
				[s, s],
				[s, s + depth],
				[0, s + depth],
				[0, s],
				[-depth, s],
				[-depth, 0]
			],
			{ origin: [x0, y0, -depth], x: [1, 0, 0], y: [0, 1, 0] },
			{ base: [s / 2, s / 2], bends: [fold('f', [0, 0], [s, 0]), fold('r', [s, 0], [s, s]), fold('b', [0, s], [s, s]), fold('l', [0, 0], [0, s])] }
		);
		const corner = (i: number, at: Vec2, a: Vec2, c: Vec2) =>
			b.joint(`sump-c${i}`, `Sump corner ${i}`, 'corner-edge', ['sump', [at, a]], ['sump', [at, c]]);
		corner(1, [0, 0], [0, -depth], [-depth, 0]);
		corner(2, [s, 0], [s, -depth], [s + depth, 0]);
		corner(3, [s, s], [s, s + depth], [s + depth, s]);
		corner(4, [0, s], [0, s + depth], [-depth, s]);
		const mouth = (i: number, name: string, from: Vec2, to: Vec2, a: Vec2, c: Vec2) =>
			b.joint(`sump-m${i}`, `Sump mouth, ${name}`, 'corner-edge', [floor, [from, to]], ['sump', [a, c]]);
		mouth(1, 'front', hole[0], hole[1], [0, -depth], [s, -depth]);
		mouth(2, 'right', hole[1], hole[2], [s + depth, 0], [s + depth, s]);
		mouth(3, 'back', hole[3], hole[2], [0, s + depth], [s, s + depth]);
		mouth(4, 'left', hole[0], hole[3], [-depth, 0], [-depth, s]);
	}
	if (p.lid) {
		const F = p.rimFlangeMm;
		b.part('lid', 'Lid', rect(-F, -F, L + F, W + F), { origin: [0, 0, D], x: [1, 0, 0], y: [0, 1, 0] });
		const seam = (where: 'front' | 'back' | 'left' | 'right', length: number, from: Vec2, to: Vec2) =>
			b.joint(
				`lid-${where}`,
				`Lid to ${where}`,
				'corner-edge',
				[wall[where].part, [wall[where].at(0, D + F), wall[where].at(length, D + F)]],
				['lid', [from, to]],
				{
					penetration: 'sealing'
				}
			);
		seam('front', L, [0, -F], [L, -F]);
		seam('back', L, [0, W + F], [L, W + F]);
		seam('left', W, [-F, 0], [-F, W]);
		seam('right', W, [L + F, 0], [L + F, W]);
		const inset = 0.08 * Math.min(L, W);
		b.flat('lid-flat', 'Lid flatness', 'lid', [inset, inset], [L - 2 * inset, W - 2 * inset]);
	}
	made.parts.push(...b.parts);
	made.joints.push(...b.joints);
	made.points.push(...b.points);
	made.features.push(...b.features);
}

/** A socket through a flat wall, its foot set on the outside round the hole. */
function port(b: Builder, made: Generated, p: OpenTrough, wall: Tank['wall'][keyof Tank['wall']], W: number, D: number, L: number) {
	const r = (p.portMm - p.thicknessMm) / 2;
	const hoop = 2 * Math.PI * r;
	const middle = wall.at(W / 2, D / 2);
	const host: Part = made.parts.find((x) => x.id === wall.part)!;
	// which way the wall's layout axes run in space
	const along = sub2(wall.at(W / 2 + 1, D / 2), middle);
	const up = sub2(wall.at(W / 2, D / 2 + 1), middle);
	const n = 48;
	const at = (a: number): Vec2 => [
		middle[0] + r * (Math.sin(a) * along[0] - Math.cos(a) * up[0]),
		middle[1] + r * (Math.sin(a) * along[1] - Math.cos(a) * up[1])
	];
	const ring = circle([0, 0], 1, n, -Math.PI).map((_, i) => at(-Math.PI + (2 * Math.PI * i) / n));
	host.holes.push(ring);
	const length = Math.max(25, p.portMm / 2);
	const out: Vec3 = [1, 0, 0];
	b.part(
		'port',
		'Port',
		rect(0, 0, hoop, length),
		{ origin: [L, W / 2, D / 2 - r], x: [0, 1, 0], y: out },
		{ roll: { hoop: 'x', radiusMm: r }, base: [hoop / 2, 0] }
	);
	b.stock(
		'port-stock',
		'Port, the tube’s own seam',
		'port',
		[
			[0, 0],
			[0, length]
		],
		[
			[hoop, 0],
			[hoop, length]
		]
	);
	b.joint(
		'port',
		'Port to right end',
		'port',
		[wall.part, closed(ring)],
		[
			'port',
			[
				[0, 0],
				[hoop, 0]
			]
		],
		{ penetration: 'partial' }
	);
}

const sub2 = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]];
