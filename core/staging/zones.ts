/**
 * The width that a weld's shrinkage takes: for a length of seam and one of its sheets, the part of every triangle that lies
 * within a distance of the line, exactly (clipped, not sampled), so that neither the size nor the lie of the triangles matters.
 * Distances are taken on the part's flat layout and so run round its bends.
 */
import type { Vec2 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';

/** The share of one triangle that lies in a zone, with the seam's direction there. */
export interface ZonePart {
	element: number;
	/** mm2 of the triangle inside the zone */
	area: number;
	/** an even density over the part inside, as the nearest straight function of place over the whole triangle: value at its middle, slope along its x and y, 1/mm */
	mean: number;
	slope: Vec2;
	/** unit direction along the seam in the triangle's own axes (x along its first side) */
	along: Vec2;
}

interface Flat {
	/** layout coordinates, two per node of the assembly */
	at(node: number): Vec2;
	first: number;
	end: number;
}

function flatOf(mesh: AssemblyMesh, partId: string): Flat {
	const k = mesh.parts.findIndex((p) => p.part.id === partId);
	const p = mesh.parts[k];
	return {
		at: (node) => [p.flat.xy[2 * (node - p.node0)], p.flat.xy[2 * (node - p.node0) + 1]],
		first: p.tri0,
		end: mesh.parts[k + 1]?.tri0 ?? mesh.triPart.length
	};
}

/** Keeps what lies on the side of `a` where n . (p - a) >= 0 (Sutherland & Hodgman 1974). */
function clip(polygon: readonly Vec2[], a: Vec2, n: Vec2): Vec2[] {
	const out: Vec2[] = [];
	const side = (p: Vec2) => (p[0] - a[0]) * n[0] + (p[1] - a[1]) * n[1];
	for (let i = 0; i < polygon.length; i++) {
		const [p, q] = [polygon[i], polygon[(i + 1) % polygon.length]];
		const [u, v] = [side(p), side(q)];
		if (u >= 0) out.push(p);
		if ((u > 0 && v < 0) || (u < 0 && v > 0)) out.push([p[0] + ((q[0] - p[0]) * u) / (u - v), p[1] + ((q[1] - p[1]) * u) / (u - v)]);
	}
	return out;
}

/** Area and first moments about the origin of a simple polygon. */
function moments(polygon: readonly Vec2[]): [number, number, number] {
	let [a, x, y] = [0, 0, 0];
	for (let i = 0; i < polygon.length; i++) {
		const [p, q] = [polygon[i], polygon[(i + 1) % polygon.length]];
		const c = p[0] * q[1] - q[0] * p[1];
		a += c / 2;
		x += (c * (p[0] + q[0])) / 6;
		y += (c * (p[1] + q[1])) / 6;
	}
	return a < 0 ? [-a, -x, -y] : [a, x, y];
}

/**
 * Zones of one side of a seam, by segment. Neighbouring segments share the line that halves the angle between them, so that
 * together they cover everything beside the seam once; past its open ends there is nothing.
 * @param halfWidths mm from the line, each side of it @returns by half width, by segment
 */
export function seamZones(mesh: AssemblyMesh, seam: SeamMesh, side: 0 | 1, halfWidths: readonly number[]): ZonePart[][][] {
	const partId = side === 0 ? seam.joint.a.part : seam.joint.b.part;
	const nodes = side === 0 ? seam.a : seam.b;
	const flat = flatOf(mesh, partId);
	const n = nodes.length;
	const count = seam.closed ? n : n - 1;
	const points = Array.from(nodes, (k) => flat.at(k));
	const widest = Math.max(...halfWidths);
	const directions = Array.from({ length: count }, (_, g): Vec2 => {
		const [p, q] = [points[g], points[(g + 1) % n]];
		const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
		return [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
	});
	const halving = (g: number, h: number): Vec2 => {
		const [d, e] = [directions[g], directions[h]];
		const s: Vec2 = [d[0] + e[0], d[1] + e[1]];
		const l = Math.hypot(s[0], s[1]);
		return l > 1e-6 ? [s[0] / l, s[1] / l] : d;
	};
	const out: ZonePart[][][] = halfWidths.map(() => Array.from({ length: count }, () => []));
	for (let e = flat.first; e < flat.end; e++) {
		const corners = [0, 1, 2].map((i) => flat.at(mesh.tri[3 * e + i])) as [Vec2, Vec2, Vec2];
		const c: Vec2 = [(corners[0][0] + corners[1][0] + corners[2][0]) / 3, (corners[0][1] + corners[1][1] + corners[2][1]) / 3];
		const reach = widest + Math.max(...corners.map((p) => Math.hypot(p[0] - c[0], p[1] - c[1])));
		let own: Own | undefined;
		for (let g = 0; g < count; g++) {
			const p = points[g];
			const q = points[(g + 1) % n];
			const d = directions[g];
			const s = (c[0] - p[0]) * d[0] + (c[1] - p[1]) * d[1];
			const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
			const beyond = Math.max(0, -s, s - l);
			const y = (c[0] - p[0]) * -d[1] + (c[1] - p[1]) * d[0];
			if (Math.hypot(beyond, y) > reach * 1.5) continue;
			const start = g > 0 ? halving(g - 1, g) : seam.closed ? halving(count - 1, g) : d;
			const end = g < count - 1 ? halving(g, g + 1) : seam.closed ? halving(g, 0) : d;
			const between = clip(clip(corners, p, start), q, [-end[0], -end[1]]);
			if (between.length < 3) continue;
			const across: Vec2 = [-d[1], d[0]];
			halfWidths.forEach((w, k) => {
				const low: Vec2 = [p[0] - w * across[0], p[1] - w * across[1]];
				const high: Vec2 = [p[0] + w * across[0], p[1] + w * across[1]];
				const inside = clip(clip(between, low, across), high, [-across[0], -across[1]]);
				if (inside.length < 3) return;
				own ??= ownOf(corners, c);
				const [area, mx, my] = moments(inside.map((v): Vec2 => [v[0] - c[0], v[1] - c[1]]));
				if (area < 1e-9 * own.area) return;
				// first moments in the triangle's own axes
				const bx = own.x[0] * mx + own.x[1] * my;
				const by = -own.x[1] * mx + own.x[0] * my;
				out[k][g].push({
					element: e,
					area,
					mean: area / own.area,
					slope: [(own.iyy * bx - own.ixy * by) / own.det, (own.ixx * by - own.ixy * bx) / own.det],
					along: [own.x[0] * d[0] + own.x[1] * d[1], -own.x[1] * d[0] + own.x[0] * d[1]]
				});
			});
		}
	}
	return out;
}

interface Own {
	area: number;
	/** unit direction of the first side */
	x: Vec2;
	/** second moments about the middle in the triangle's own axes, and their determinant */
	ixx: number;
	ixy: number;
	iyy: number;
	det: number;
}

function ownOf(p: readonly [Vec2, Vec2, Vec2], c: Vec2): Own {
	const l = Math.hypot(p[1][0] - p[0][0], p[1][1] - p[0][1]);
	const x: Vec2 = [(p[1][0] - p[0][0]) / l, (p[1][1] - p[0][1]) / l];
	const local = p.map((v): Vec2 => {
		const [a, b] = [v[0] - c[0], v[1] - c[1]];
		return [x[0] * a + x[1] * b, -x[1] * a + x[0] * b];
	});
	const area = Math.abs((local[1][0] - local[0][0]) * (local[2][1] - local[0][1]) - (local[2][0] - local[0][0]) * (local[1][1] - local[0][1])) / 2;
	// of a triangle about its middle: area / 12 times the sum over its corners
	const sum = (f: (v: Vec2) => number) => (area / 12) * local.reduce((s, v) => s + f(v), 0);
	const [ixx, ixy, iyy] = [sum((v) => v[0] * v[0]), sum((v) => v[0] * v[1]), sum((v) => v[1] * v[1])];
	return { area, x, ixx, ixy, iyy, det: ixx * iyy - ixy * ixy };
}
