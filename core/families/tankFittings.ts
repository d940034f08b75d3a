/** What is fitted to a trough: baffles, cross-break, stiffeners under the floor, a port in the end, a sump, a lid. */
import type { Vec2, Vec3 } from '../geometry/vec';
import type { Part } from '../document/schema';
import { Builder, circle, closed, rect } from './builder';
import type { Generated } from './family';
import type { OpenTrough } from './troughSizes';

export interface Tank {
	/** layout place on each wall, by distance along it and height */
	wall: Record<'front' | 'back' | 'left' | 'right', { part: string; at: (along: number, height: number) => Vec2 }>;
	floor: string;
	/** mid-surface length, width, depth */
	L: number;
	W: number;
	D: number;
}

/** Where the sump's middle is, share of the length: in the last bay. */
const sumpShare = (baffles: number) => Math.max(0.84, 1 - 0.5 / (baffles + 1));
/** A field of the floor shorter or narrower than this is not creased, mm. */
const LEAST_FIELD = 40;

// eslint-disable-next-line max-lines-per-function -- a drawing, told from its first sheet to its last feature
export function fitTank(made: Generated, p: OpenTrough, { wall, floor, L, W, D }: Tank): void {
	const b = new Builder(p.material, p.thicknessMm);
	const flatFloor = made.parts.find((x) => x.id === floor)!;
	const sumpX = sumpShare(p.baffles) * L;
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
			const last = p.sumpMm > 0 && i === fields - 1 ? sumpX - p.sumpMm / 2 : (L * (i + 1)) / fields;
			const [x0, x1] = [(L * i) / fields + clear, last - clear];
			return x1 - x0 < LEAST_FIELD || W - 2 * clear < LEAST_FIELD
				? []
				: [{ id: `floor-${i + 1}`, corners: rect(x0, clear, x1, W - clear), heightMm: p.crossBreakMm }];
		}).flat();
	}
	// stiffeners share what the sump leaves of the floor, each clear of the baffles
	const room = p.sumpMm > 0 ? sumpX - p.sumpMm / 2 - 0.02 * L : L;
	for (let i = 1; i <= p.stiffeners; i++) {
		let x = (room * i) / (p.stiffeners + 1);
		if (Array.from({ length: p.baffles }, (_, k) => (L * (k + 1)) / (p.baffles + 1)).some((at) => Math.abs(at - x) < 0.015 * L)) x += 0.02 * L;
		const profile = floorProfile(flatFloor, x, 0.1 * W, 0.9 * W);
		const h = 25;
		const [[y0], [y1]] = [profile[0], profile[profile.length - 1]];
		// its upper edge is trimmed to the creases it stands under
		const top = trimmed(profile);
		b.part(`rib-${i}`, `Stiffener ${i}`, [...top, [y1 - y0, h], [0, h]], { origin: [x, y0, 0], x: [0, 1, 0], y: [0, 0, -1] });
		b.joint(`rib-${i}`, `Stiffener ${i} under the floor`, 'tee', [`rib-${i}`, top], [floor, profile.map(([y]): Vec2 => [x, y])], {
			penetration: 'sealing'
		});
	}
	if (p.portMm > 0) port(b, made, p, wall.right, W, D, L);
	if (p.sumpMm > 0) {
		const s = p.sumpMm;
		const depth = s / 2;
		const [x0, y0] = [sumpX - s / 2, W / 2 - s / 2];
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
		// the inside is welded and looked over before it is shut
		made.order = [
			{
				id: 'shell',
				name: p.baffles ? 'Shell and baffles' : 'Shell',
				parts: [...made.parts, ...b.parts].map((x) => x.id).filter((id) => id !== 'lid')
			},
			{ id: 'lid', name: 'Lid', parts: ['lid'] }
		];
	}
	made.parts.push(...b.parts);
	made.joints.push(...b.joints);
	made.points.push(...b.points);
	made.features.push(...b.features);
}

/** Across the floor at x from y0 to y1: [y, height over the flat], with a corner where a crease is met. */
function floorProfile(floor: Part, x: number, y0: number, y1: number): [number, number][] {
	const field = floor.crossBreaks?.find((f) => x > f.corners[0][0] && x < f.corners[2][0]);
	if (!field)
		return [
			[y0, 0],
			[y1, 0]
		];
	const [[left, near], , [right, far]] = field.corners;
	const [halfX, halfY, middleY] = [(right - left) / 2, (far - near) / 2, (near + far) / 2];
	// 0 over the crossing, 1 at the field's ends
	const away = Math.abs(x - (left + right) / 2) / halfX;
	const height = (y: number) => field.heightMm * Math.max(0, 1 - Math.max(away, Math.abs(y - middleY) / halfY));
	const corners = [near, middleY - away * halfY, middleY + away * halfY, far].filter((y) => y > y0 + 1 && y < y1 - 1);
	const apart = corners.filter((y, i) => i === 0 || y - corners[i - 1] > 1);
	return [y0, ...apart, y1].map((y) => [y, height(y)]);
}

/**
 * Upper edge of a stiffener to a profile, down positive. A seam pairs its two sides by shares of their lengths, and the trimmed
 * edge is a little longer where it climbs: its corners are put where their shares are the floor's (hundredths of a millimetre).
 */
function trimmed(profile: readonly [number, number][]): Vec2[] {
	const [y0] = profile[0];
	const out = profile.map(([y, up]): Vec2 => [y - y0, -up]);
	if (out.length !== 4) return out;
	const whole = out[3][0];
	const [climb, share] = [out[1][1] - out[0][1], out[1][0] / whole];
	let u = out[1][0];
	for (let i = 0; i < 40; i++) {
		const side = Math.hypot(u, climb);
		u += (share - side / (2 * side + whole - 2 * u)) * whole;
	}
	out[1][0] = u;
	out[2][0] = whole - u;
	return out;
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
