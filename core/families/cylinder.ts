/** Rolled shell with ends, girth seams and a port. Radii are of the mid-surface. */
import { type Vec2, type Vec3 } from '../geometry/vec';
import { Builder, circle, closed, rect } from './builder';
import { line, SIDES, socket } from './socket';
import { SHEET, count, length, most, noneOr, type FamilyRecord, type Generated, type Sheet } from './family';

const ENDS = { open: 'open', flat: 'flat', dished: 'dished', conical: 'conical' };

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

function make(p: Cylinder): Generated {
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

export const cylinder: FamilyRecord = {
	name: 'Cylinder',
	isFilled: true,
	says: 'Rolled shell with ends, girth seams and a port',
	sizes: ['diameterMm', 'lengthMm'],
	fields: [
		length('diameterMm', 'Outside diameter', 40, 3000),
		length('lengthMm', 'Length of the shell', 40, 4000),
		count('courses', 'Sheets in a row', 1, 4, 'girth seams between them'),
		{ kind: 'word', name: 'bottom', label: 'Bottom end', options: ENDS },
		{ kind: 'word', name: 'top', label: 'Top end', options: ENDS },
		{ kind: 'angle', name: 'coneAngleDeg', label: 'Cone, axis to wall', min: 20, max: 80 },
		length('portMm', 'Port in the shell, diameter', 0, 1000, 'outside of its socket, 0 for none'),
		length('portLengthMm', 'Length of the socket', 10, 500)
	],
	defaults: { ...SHEET, diameterMm: 300, lengthMm: 400, courses: 1, bottom: 'flat', top: 'open', coneAngleDeg: 45, portMm: 0, portLengthMm: 60 },
	fits: [
		noneOr('portMm', (p) => Math.max(12, 6 * p.thicknessMm)),
		most('portMm', (p) => 0.6 * Math.min(p.diameterMm, p.lengthMm / p.courses), 'the port must leave wall round it')
	],
	make
};
