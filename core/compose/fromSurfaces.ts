/**
 * Parts from a surface or solid model: its flat and cylindrical faces. Two flat faces back to back at a sheet's distance are
 * one sheet, drawn at its middle; a face by itself is a sheet of the thickness given. What is neither is listed.
 */
import { ringArea, isInside } from '../geometry/polyline';
import { add, cross, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { eigen3, scatter } from '../measure/flatness';
import type { Part } from '../document/schema';

export interface Soup {
	/** 3 per point, mm */
	xyz: ArrayLike<number>;
	tri: ArrayLike<number>;
	/** face of each triangle where the file knows it */
	face?: ArrayLike<number>;
	name: string;
}

export interface SurfaceOptions {
	material: string;
	/** for faces that stand alone */
	thicknessMm: number;
}

export interface SurfaceRead {
	parts: Part[];
	unused: string[];
	faults: string[];
}

/** Points nearer than this are one, mm. */
const WELD_MM = 0.01;
/** A face is flat when its points lie within this of a plane, mm. */
const FLAT_MM = 0.05;
/** Neighbours that turn less than this belong to one flat face, or to one curved face, rad. */
const SAME_PLANE = 0.01;
const SMOOTH = 0.3;
/** Sheets are this thick, mm. */
const [THINNEST, THICKEST] = [0.3, 12];
/** Faces smaller than this are edges of sheets or noise, mm2. */
const SMALLEST = 25;
export const MOST_TRIANGLES = 400_000;
const MOST_PARTS = 150;

interface Face {
	solid: number;
	triangles: number[];
	area: number;
}
interface Planar extends Face {
	normal: Vec3;
	at: Vec3;
	loops: Vec3[][];
}

class Net {
	readonly points: Vec3[] = [];
	readonly tri: [number, number, number][] = [];
	constructor(soup: Soup) {
		const cells = new Map<string, number>();
		const index = Array.from({ length: soup.xyz.length / 3 }, (_, k) => {
			const p: Vec3 = [soup.xyz[3 * k], soup.xyz[3 * k + 1], soup.xyz[3 * k + 2]];
			const key = p.map((v) => Math.round(v / WELD_MM)).join(',');
			let i = cells.get(key);
			if (i === undefined) cells.set(key, (i = this.points.push(p) - 1));
			return i;
		});
		for (let e = 0; e + 2 < soup.tri.length; e += 3) this.tri.push([index[soup.tri[e]], index[soup.tri[e + 1]], index[soup.tri[e + 2]]]);
	}
	normal(e: number): Vec3 {
		const [p, q, r] = this.tri[e].map((k) => this.points[k]);
		return cross(sub(q, p), sub(r, p));
	}
}

/** Triangles of one face each: by the file's own faces, or grown over neighbours that turn little. */
function facesOf(net: Net, soup: Soup, solid: number): Face[] {
	const normals = net.tri.map((_, e) => net.normal(e));
	const keep = normals.map((n) => norm(n) > 1e-9);
	const groups = new Map<number, number[]>();
	if (soup.face) net.tri.forEach((_, e) => keep[e] && groups.set(soup.face![e], [...(groups.get(soup.face![e]) ?? []), e]));
	else {
		const edges = new Map<string, number[]>();
		net.tri.forEach((t, e) => {
			if (keep[e])
				for (let i = 0; i < 3; i++) {
					const [a, b] = [t[i], t[(i + 1) % 3]];
					const key = a < b ? `${a}/${b}` : `${b}/${a}`;
					const list = edges.get(key);
					if (list) list.push(e);
					else edges.set(key, [e]);
				}
		});
		const mark = new Int32Array(net.tri.length).fill(-1);
		const angle = (e: number, f: number) => Math.acos(Math.min(1, Math.max(-1, dot(normals[e], normals[f]) / (norm(normals[e]) * norm(normals[f])))));
		// a facet of a curved face runs on smoothly over half of its edges or more
		const facet = (group: readonly number[]) => {
			const own = new Set(group);
			let [smooth, all] = [0, 0];
			for (const e of group)
				for (let i = 0; i < 3; i++) {
					const [a, b] = [net.tri[e][i], net.tri[e][(i + 1) % 3]];
					const others = edges.get(a < b ? `${a}/${b}` : `${b}/${a}`)!.filter((f) => f !== e);
					if (others.some((f) => own.has(f))) continue;
					all++;
					if (others.some((f) => angle(e, f) < SMOOTH)) smooth++;
				}
			return all > 0 && smooth >= all / 2;
		};
		// flat faces first, then what is left by smoothness
		for (const [limit, least] of [
			[SAME_PLANE, SMALLEST],
			[SMOOTH, 0]
		]) {
			for (let e = 0; e < net.tri.length; e++) {
				if (!keep[e] || mark[e] >= 0) continue;
				const group = [e];
				const seen = new Set(group);
				for (let q = 0; q < group.length; q++)
					for (let i = 0; i < 3; i++) {
						const [a, b] = [net.tri[group[q]][i], net.tri[group[q]][(i + 1) % 3]];
						for (const f of edges.get(a < b ? `${a}/${b}` : `${b}/${a}`) ?? [])
							// flat: against the first triangle, so that a cylinder does not creep round
							if (!seen.has(f) && mark[f] < 0 && angle(limit === SAME_PLANE ? e : group[q], f) < limit) {
								seen.add(f);
								group.push(f);
							}
					}
				const area = group.reduce((s, f) => s + norm(normals[f]) / 2, 0);
				if (limit === SAME_PLANE && (area < least || facet(group))) continue;
				group.forEach((f) => (mark[f] = e));
				groups.set(e, group);
			}
		}
	}
	return [...groups.values()].map((triangles) => ({ solid, triangles, area: triangles.reduce((s, e) => s + norm(normals[e]) / 2, 0) }));
}

/** Boundary of a face as closed loops of points, outer or inner alike. */
function loopsOf(net: Net, triangles: readonly number[]): Vec3[][] {
	const next = new Map<number, number[]>();
	const edges = new Set<string>();
	for (const e of triangles) for (let i = 0; i < 3; i++) edges.add(`${net.tri[e][i]}/${net.tri[e][(i + 1) % 3]}`);
	for (const key of edges) {
		const [a, b] = key.split('/').map(Number);
		if (!edges.has(`${b}/${a}`)) next.set(a, [...(next.get(a) ?? []), b]);
	}
	const out: Vec3[][] = [];
	for (const [start, list] of next)
		while (list.length) {
			const loop = [start];
			for (let at = list.pop()!; at !== start && loop.length <= edges.size;) {
				loop.push(at);
				const step = next.get(at)?.pop();
				if (step === undefined) break;
				at = step;
			}
			if (loop.length > 2) out.push(loop.map((k) => net.points[k]));
		}
	return out;
}

/** Points of a loop that turn the line: a mesh's own splits of a straight edge go. */
const corners = (loop: Vec2[]): Vec2[] =>
	loop.filter((p, i) => {
		const [a, b] = [loop[(i + loop.length - 1) % loop.length], loop[(i + 1) % loop.length]];
		const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
		return l < 1e-9 || Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / l > 1e-3;
	});

function planar(net: Net, face: Face): Planar | undefined {
	let n: Vec3 = [0, 0, 0];
	for (const e of face.triangles) n = add(n, net.normal(e));
	if (norm(n) < 1e-9) return undefined;
	const normal = unit(n);
	const points = [...new Set(face.triangles.flatMap((e) => net.tri[e]))].map((k) => net.points[k]);
	const at = points.reduce<Vec3>((s, p) => add(s, scale(p, 1 / points.length)), [0, 0, 0]);
	if (points.some((p) => Math.abs(dot(sub(p, at), normal)) > FLAT_MM)) return undefined;
	return { ...face, normal, at, loops: loopsOf(net, face.triangles) };
}

interface Rolled {
	axis: Vec3;
	centre: Vec3;
	radius: number;
	from: number;
	to: number;
	/** the whole way round */
	full: boolean;
	outward: boolean;
}

/** Cylinder through a face: the axis is what all normals are square to, the circle by least squares (Kasa 1976). */
function rolled(net: Net, face: Face): Rolled | undefined {
	const normals = face.triangles.map((e) => unit(net.normal(e)));
	const axis = eigen3(scatter(normals, [0, 0, 0])).vectors[0];
	if (normals.some((n) => Math.abs(dot(n, axis)) > 0.03)) return undefined;
	const points = [...new Set(face.triangles.flatMap((e) => net.tri[e]))].map((k) => net.points[k]);
	const helper: Vec3 = Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
	const u = unit(cross(axis, helper));
	const v = cross(axis, u);
	const uv = points.map((p): Vec2 => [dot(p, u), dot(p, v)]);
	const mean: Vec2 = [uv.reduce((s, p) => s + p[0], 0) / uv.length, uv.reduce((s, p) => s + p[1], 0) / uv.length];
	let [suu, suv, svv, ru, rv] = [0, 0, 0, 0, 0];
	for (const [a, b] of uv) {
		const [x, y] = [a - mean[0], b - mean[1]];
		suu += x * x;
		suv += x * y;
		svv += y * y;
		ru += (x * (x * x + y * y)) / 2;
		rv += (y * (x * x + y * y)) / 2;
	}
	const det = suu * svv - suv * suv;
	if (Math.abs(det) < 1e-9 * suu * svv) return undefined;
	const c: Vec2 = [(ru * svv - rv * suv) / det + mean[0], (rv * suu - ru * suv) / det + mean[1]];
	const radii = uv.map((p) => Math.hypot(p[0] - c[0], p[1] - c[1]));
	const radius = radii.reduce((s, r) => s + r, 0) / radii.length;
	if (radii.some((r) => Math.abs(r - radius) > FLAT_MM + 0.005 * radius)) return undefined;
	const along = points.map((p) => dot(p, axis));
	const turns = uv.map((p) => Math.atan2(p[1] - c[1], p[0] - c[0])).sort((a, b) => a - b);
	const gap = Math.max(turns[0] + 2 * Math.PI - turns[turns.length - 1], ...turns.slice(1).map((t, i) => t - turns[i]));
	const centre = add(scale(u, c[0]), scale(v, c[1]));
	const p0 = net.points[net.tri[face.triangles[0]][0]];
	const radial = sub(sub(p0, centre), scale(axis, dot(sub(p0, centre), axis)));
	return { axis, centre, radius, from: Math.min(...along), to: Math.max(...along), full: gap < 0.9, outward: dot(radial, normals[0]) > 0 };
}

const planFrame = (normal: Vec3) => {
	const helper: Vec3 = Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
	const x = unit(cross(helper, normal));
	return { x, y: cross(normal, x) };
};

function sheetOf(f: Planar, thicknessMm: number, shift: number, id: string, name: string, material: string): Part | undefined {
	const { x, y } = planFrame(f.normal);
	const origin = add(f.at, scale(f.normal, shift));
	const rings = f.loops
		.map((l) => corners(l.map((p): Vec2 => [dot(sub(p, f.at), x), dot(sub(p, f.at), y)])))
		.filter((r) => r.length > 2 && Math.abs(ringArea(r)) > 0.5);
	if (!rings.length) return undefined;
	const outline = rings.reduce((a, b) => (Math.abs(ringArea(b)) > Math.abs(ringArea(a)) ? b : a));
	const holes = rings.filter((r) => r !== outline && isInside(r[0], outline));
	return { id, name, material, thicknessMm, outline, holes, bends: [], frame: { origin, x, y } };
}

// eslint-disable-next-line complexity, max-lines-per-function -- one pass over the faces, each step on what the last one found
export function partsFromSurfaces(soups: readonly Soup[], o: SurfaceOptions): SurfaceRead {
	const out: SurfaceRead = { parts: [], unused: [], faults: [] };
	const count = soups.reduce((n, s) => n + s.tri.length / 3, 0);
	if (!count) {
		out.faults.push('The file holds no surfaces');
		return out;
	}
	if (count > MOST_TRIANGLES) {
		out.faults.push(`The model has ${count} triangles; at most ${MOST_TRIANGLES} are read: export it coarser`);
		return out;
	}
	for (const soup of soups) {
		const points = soup.xyz.length / 3;
		const wild = Array.from(soup.tri).findIndex((k) => !(k >= 0 && k < points));
		if (wild >= 0) {
			out.faults.push(`“${soup.name}”: triangle ${Math.floor(wild / 3) + 1} names a point that is not in the file: it is damaged`);
			return out;
		}
	}
	const flats: Planar[] = [];
	const tubes: { t: Rolled; solid: number }[] = [];
	soups.forEach((soup, solid) => {
		const net = new Net(soup);
		let [odd, oddArea] = [0, 0];
		for (const face of facesOf(net, soup, solid)) {
			const flat = planar(net, face);
			if (flat) flats.push(flat);
			else {
				const t = rolled(net, face);
				if (t?.full) tubes.push({ t, solid });
				else if (t)
					out.unused.push(
						`${soup.name}: a rounded face of radius ${t.radius.toFixed(1)} mm, ${(t.to - t.from).toFixed(0)} mm long, is no whole tube: folds come in sharp`
					);
				else {
					odd++;
					oddArea += face.area;
				}
			}
		}
		if (odd) out.unused.push(`${soup.name}: ${odd} face${odd > 1 ? 's' : ''} (${(oddArea / 100).toFixed(0)} cm²) neither flat nor cylindrical`);
	});
	const paired = new Set<Planar>();
	let number = 0;
	const push = (part: Part | undefined) => part && out.parts.push(part);
	const solids = new Set<number>();
	// a tube's inner and outer face are one
	const used = new Set<Rolled>();
	for (const { t, solid } of tubes) {
		if (used.has(t)) continue;
		const twin = tubes.find(
			(o2) =>
				o2.t !== t &&
				!used.has(o2.t) &&
				o2.solid === solid &&
				Math.abs(dot(o2.t.axis, t.axis)) > 0.9999 &&
				norm(cross(sub(o2.t.centre, t.centre), t.axis)) < 0.1 &&
				Math.abs(o2.t.radius - t.radius) >= THINNEST &&
				Math.abs(o2.t.radius - t.radius) <= THICKEST
		);
		used.add(t);
		if (twin) {
			used.add(twin.t);
			solids.add(solid);
		}
		const radius = twin ? (t.radius + twin.t.radius) / 2 : t.radius;
		number++;
		const { x } = planFrame(t.axis);
		const base = add(add(t.centre, scale(t.axis, t.from)), scale(x, radius));
		const hoop = 2 * Math.PI * radius;
		push({
			id: `tube-${number}`,
			name: `Tube ${number}`,
			material: o.material,
			thicknessMm: twin ? Math.round(Math.abs(t.radius - twin.t.radius) * 1000) / 1000 : o.thicknessMm,
			outline: [
				[0, 0],
				[hoop, 0],
				[hoop, t.to - t.from],
				[0, t.to - t.from]
			],
			holes: [],
			bends: [],
			roll: { hoop: 'x', radiusMm: radius },
			base: [hoop / 2, 0],
			// normal of the layout looks out: hoop x axis
			frame: { origin: base, x: cross(t.axis, x), y: t.axis }
		});
	}
	// back to back: opposite normals, a sheet apart, nearly the same area and place
	for (const f of flats) {
		if (paired.has(f) || f.area < SMALLEST) continue;
		const back = flats
			.filter((g) => g !== f && !paired.has(g) && g.solid === f.solid && dot(f.normal, g.normal) < -0.9999 && Math.abs(g.area / f.area - 1) < 0.15)
			.map((g) => ({ g, t: -dot(sub(g.at, f.at), f.normal), aside: norm(sub(sub(g.at, f.at), scale(f.normal, dot(sub(g.at, f.at), f.normal)))) }))
			.filter(({ t, aside }) => t >= THINNEST && t <= THICKEST && t * t < 0.05 * f.area && aside < 0.1 * Math.sqrt(f.area))
			.sort((a, b) => a.t - b.t)[0];
		if (!back) continue;
		paired.add(f);
		paired.add(back.g);
		number++;
		push(sheetOf(f, Math.round(back.t * 1000) / 1000, -back.t / 2, `sheet-${number}`, `Sheet ${number}`, o.material));
	}
	// a solid whose sheets were found has only edges left
	for (const f of paired) solids.add(f.solid);
	let edges = 0;
	for (const f of flats) {
		if (paired.has(f)) continue;
		if (solids.has(f.solid)) {
			edges++;
			continue;
		}
		if (f.area < SMALLEST) {
			out.unused.push(`${soups[f.solid].name}: a face of ${f.area.toFixed(0)} mm² is too small for a part`);
			continue;
		}
		number++;
		push(sheetOf(f, o.thicknessMm, 0, `sheet-${number}`, `Sheet ${number}`, o.material));
	}
	if (edges) out.unused.push(`${edges} narrow faces taken as the edges of sheets`);
	if (!out.parts.length) out.faults.push('No flat or cylindrical face was found that could be a sheet');
	if (out.parts.length > MOST_PARTS) {
		out.faults.push(`The model comes to ${out.parts.length} parts; a plan holds at most ${MOST_PARTS}: import one assembly at a time`);
		out.parts = [];
	}
	return out;
}
