/** Rolled work: cylinder with ends, ring on a duct, tube with a row of sockets. Radii are of the mid-surface. */
import { cross, dot, type Vec2, type Vec3 } from '../geometry/vec';
import { Builder, circle, closed, rect } from './builder';
import type { Generated } from './family';

interface Sheet {
	thicknessMm: number;
	material: string;
}
/** Sides of a circle in a layout: even, and a multiple of four so that quarters fall on points. */
const SIDES = 48;

export const END_KINDS = ['open', 'flat', 'dished', 'conical'] as const;
export interface Cylinder extends Sheet {
	/** outside */
	diameterMm: number;
	lengthMm: number;
	/** sheets in a row; girth seams between them */
	courses: number;
	bottom: (typeof END_KINDS)[number];
	top: (typeof END_KINDS)[number];
	/** angle between axis and wall of a conical end */
	coneAngleDeg: number;
	/** socket through the wall half way up the first course, outside diameter; 0 for none */
	portMm: number;
	portLengthMm: number;
}

export function cylinder(p: Cylinder): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const R = (p.diameterMm - p.thicknessMm) / 2;
	const hoop = 2 * Math.PI * R;
	const n = p.courses;
	const H = p.lengthMm / n;
	for (let i = 0; i < n; i++) {
		const id = `course-${i + 1}`;
		const name = n === 1 ? 'Shell' : `Course ${i + 1}`;
		// long seams of neighbouring courses stand half a turn apart
		const turned = i % 2 === 1;
		const x: Vec3 = turned ? [0, -1, 0] : [0, 1, 0];
		const origin: Vec3 = [turned ? -R : R, 0, i * H];
		b.part(id, name, rect(0, 0, hoop, H), { origin, x, y: [0, 0, 1] }, { roll: { hoop: 'x', radiusMm: R }, base: [hoop / 2, 0] });
		b.joint(`long-${i + 1}`, n === 1 ? 'Long seam' : `Long seam ${i + 1}`, 'butt', [id, line(0, 0, 0, H)], [id, line(hoop, 0, hoop, H)]);
		if (i > 0) {
			// half a turn apart: the upper course's middle stands over the lower one's seam
			const half = hoop / 2;
			const below = `course-${i}`;
			b.joint(`girth-${i}a`, `Girth seam ${i}, first half`, 'butt', [below, line(0, H, half, H)], [id, line(half, 0, hoop, 0)]);
			b.joint(`girth-${i}b`, `Girth seam ${i}, second half`, 'butt', [below, line(half, H, hoop, H)], [id, line(0, 0, half, 0)]);
		}
	}
	const end = (where: 'bottom' | 'top', kind: Cylinder['bottom']) => {
		if (kind === 'open') return;
		const low = where === 'bottom';
		const course = low ? 'course-1' : `course-${n}`;
		const turned = !low && (n - 1) % 2 === 1;
		const z = low ? 0 : p.lengthMm;
		const edge = line(0, low ? 0 : H, hoop, low ? 0 : H);
		const name = `${low ? 'Bottom' : 'Top'} end`;
		// the shell's layout starts opposite its base, and runs anticlockwise seen from above
		const from = Math.PI + (turned ? Math.PI : 0);
		if (kind === 'conical') {
			const half = (p.coneAngleDeg * Math.PI) / 180;
			const s = R / Math.sin(half);
			const stump = 0.08 * s; // an outlet: the point of a cone cannot be rolled
			const sector = Math.PI * Math.sin(half); // half the sector's angle
			const arc = (r: number, a0: number, a1: number): Vec2[] =>
				Array.from({ length: SIDES + 1 }, (_, i) => {
					const a = a0 + ((a1 - a0) * i) / SIDES;
					return [r * Math.cos(a), r * Math.sin(a)];
				});
			const outer = arc(s, -sector, sector);
			const inner = arc(stump, sector, -sector);
			const axis: Vec3 = low ? [0, 0, 1] : [0, 0, -1];
			// azimuth grows anticlockwise about x cross axis: the same way as the shell's layout when the axis points down
			const x: Vec3 = turned ? [-1, 0, 0] : [1, 0, 0];
			const apex: Vec3 = [0, 0, z + (low ? -1 : 1) * s * Math.cos(half)];
			b.part(
				`${where}-end`,
				name,
				[...outer, ...inner],
				{ origin: apex, x, y: axis },
				{ cone: { apex: [0, 0], halfAngleDeg: p.coneAngleDeg }, base: [s, 0] }
			);
			b.joint(`${where}-long`, `${name}, long seam`, 'butt', [`${where}-end`, [inner[0], outer[SIDES]]], [`${where}-end`, [inner[SIDES], outer[0]]]);
			b.joint(`${where}`, `${name} to shell`, 'butt', [course, edge], [`${where}-end`, low ? [...outer].reverse() : outer]);
			return;
		}
		const ring = circle([0, 0], R, SIDES, from);
		const dish = kind === 'dished' ? { dish: { centre: [0, 0] as Vec2, radiusMm: R, heightMm: low ? -0.15 * 2 * R : 0.15 * 2 * R } } : {};
		b.part(`${where}-end`, name, ring, { origin: [0, 0, z], x: [1, 0, 0], y: [0, 1, 0] }, dish);
		b.joint(where, `${name} to shell`, 'corner-edge', [course, edge], [`${where}-end`, closed(ring)]);
		if (kind === 'flat') {
			const s = 0.6 * R;
			b.flat(`${where}-flat`, `${name} flatness`, `${where}-end`, [-s, -s], [2 * s, 2 * s], 5, 5);
		}
	};
	end('bottom', p.bottom);
	end('top', p.top);
	if (p.portMm > 0)
		socket(b, {
			id: 'port',
			name: 'Port',
			main: 'course-1',
			R,
			r: (p.portMm - p.thicknessMm) / 2,
			at: [hoop / 2, H / 2],
			length: p.portLengthMm,
			frame: { out: [1, 0, 0], along: [0, 1, 0], axis: [0, 0, 1], centre: [0, 0, H / 2] }
		});
	const top = `course-${n}`;
	const quarter = (q: number): Vec2 => [(hoop * q) / 4, H];
	const rim = [0, 1, 2, 3].map((q) => b.point(`rim-${q}`, `Rim at ${90 * q}°`, top, [quarter(q)[0] + (q === 0 ? hoop / 48 : 0), H]));
	b.point('foot-0', 'Foot at 90°', 'course-1', [hoop / 4, 0]);
	b.point('foot-1', 'Foot at 180°', 'course-1', [hoop / 2, 0]);
	b.point('foot-2', 'Foot at 270°', 'course-1', [(3 * hoop) / 4, 0]);
	b.length('dia-1', 'Diameter at the rim, 0° to 180°', [rim[0], rim[2]], 2 * R);
	b.length('dia-2', 'Diameter at the rim, 90° to 270°', [rim[1], rim[3]], 2 * R);
	b.straight('wall', 'Wall straightness at 180°', 'course-1', line(hoop / 2 - hoop / 8, 0, hoop / 2 - hoop / 8, H), H);
	b.straight('seam', 'Long seam straightness', 'course-1', line(0, 0, 0, H), H);
	return b.done(['foot-0', 'foot-1', 'foot-2']);
}

const line = (x0: number, y0: number, x1: number, y1: number): Vec2[] => [
	[x0, y0],
	[x1, y1]
];

interface Socket {
	id: string;
	name: string;
	main: string;
	/** mid-surface radii of main tube and socket */
	R: number;
	r: number;
	/** middle in the main part's layout: x round the hoop */
	at: Vec2;
	length: number;
	/** directions at that place: out of the wall, along growing hoop, along the axis; the point of the axis below it */
	frame: { out: Vec3; along: Vec3; axis: Vec3; centre: Vec3 };
}

/**
 * A socket set on a rolled wall: hole in the wall, foot of the socket cut to the saddle. Two cylinders at right angles:
 * at azimuth a of the socket the foot stands at sqrt(R2 - r2 sin2 a) from the main axis, and lies R asin(r sin a / R) round it.
 */
function socket(b: Builder, s: Socket) {
	const { R, r } = s;
	const hoop = 2 * Math.PI * r;
	const { out, along, axis, centre } = s.frame;
	// where the socket's layout has its middle: along the axis, one way or the other
	const zero = cross(along, out);
	const way = dot(zero, axis);
	const point = (a: number) => ({
		main: [s.at[0] + R * Math.asin((r * Math.sin(a)) / R), s.at[1] + way * r * Math.cos(a)] as Vec2,
		height: Math.sqrt(R * R - (r * Math.sin(a)) ** 2)
	});
	const angles = Array.from({ length: SIDES + 1 }, (_, i) => -Math.PI + (2 * Math.PI * i) / SIDES);
	const saddle = angles.map((a) => point(a).main);
	const main = b.parts.find((p) => p.id === s.main)!;
	main.holes.push(saddle.slice(0, -1));
	const foot = angles.map((a, i): Vec2 => [(hoop * i) / SIDES, point(a).height - R]);
	const origin: Vec3 = [0, 1, 2].map((d) => centre[d] + R * out[d] + r * zero[d]) as Vec3;
	b.part(
		s.id,
		s.name,
		[...foot, [hoop, s.length], [0, s.length]],
		{ origin, x: along, y: out },
		{ roll: { hoop: 'x', radiusMm: r }, base: [hoop / 2, 0] }
	);
	b.stock(`${s.id}-stock`, `${s.name}, the tube's own seam`, s.id, line(0, foot[0][1], 0, s.length), line(hoop, foot[SIDES][1], hoop, s.length));
	b.joint(`${s.id}-foot`, `${s.name} to wall`, 'port', [s.main, closed(saddle.slice(0, -1))], [s.id, foot], { penetration: 'partial' });
}

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

export function collar(p: Collar): Generated {
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

export interface Manifold extends Sheet {
	/** outside diameter of the tube */
	tubeMm: number;
	lengthMm: number;
	sockets: number;
	socketMm: number;
	socketLengthMm: number;
}

export function manifold(p: Manifold): Generated {
	const b = new Builder(p.material, p.thicknessMm);
	const R = (p.tubeMm - p.thicknessMm) / 2;
	const hoop = 2 * Math.PI * R;
	const L = p.lengthMm;
	// the tube lies along x, sockets stand up
	b.part(
		'tube',
		'Tube',
		rect(0, 0, hoop, L),
		{ origin: [0, 0, R], x: [0, -1, 0], y: [1, 0, 0] },
		{ roll: { hoop: 'x', radiusMm: R }, base: [hoop / 2, 0] }
	);
	b.stock('tube-stock', 'Tube, its own seam', 'tube', line(0, 0, 0, L), line(hoop, 0, hoop, L));
	const pitch = L / (p.sockets + 1);
	for (let i = 1; i <= p.sockets; i++) {
		const x = pitch * i;
		socket(b, {
			id: `socket-${i}`,
			name: `Socket ${i}`,
			main: 'tube',
			R,
			r: (p.socketMm - p.thicknessMm) / 2,
			at: [hoop / 2, x],
			length: p.socketLengthMm,
			frame: { out: [0, 0, 1], along: [0, -1, 0], axis: [1, 0, 0], centre: [x, 0, 0] }
		});
		b.point(`top-${i}`, `Socket ${i}, mouth`, `socket-${i}`, [Math.PI * ((p.socketMm - p.thicknessMm) / 2), p.socketLengthMm]);
	}
	b.straight('back', 'Tube straightness, opposite the sockets', 'tube', line(hoop / 48, 0, hoop / 48, L), L);
	b.straight('side', 'Tube straightness, seen from above', 'tube', line(hoop / 4, 0, hoop / 4, L), L);
	if (p.sockets > 1) b.length('pitch', 'First to last socket at the mouth', ['top-1', `top-${p.sockets}`], pitch * (p.sockets - 1));
	b.point('e-1', 'Tube end, left', 'tube', [hoop / 4, 0]);
	b.point('e-2', 'Tube end, far left', 'tube', [hoop / 4, L]);
	b.point('e-3', 'Tube end, right', 'tube', [(3 * hoop) / 4, 0]);
	return b.done(['e-1', 'e-2', 'e-3'], 'socket-1-foot');
}
