/** A socket on a rolled wall, and what rolled families share. Radii are of the mid-surface. */
import { cross, dot, type Vec2, type Vec3 } from '../geometry/vec';
import { Builder, closed } from './builder';

/** Sides of a circle in a layout: even, and a multiple of four so that quarters fall on points. */
export const SIDES = 48;

export const line = (x0: number, y0: number, x1: number, y1: number): Vec2[] => [
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
export function socket(b: Builder, s: Socket) {
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
