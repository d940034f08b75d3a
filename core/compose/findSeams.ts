/**
 * Seams where parts meet: the edges of every part are walked in space, and where another part (or another panel of the same
 * one) lies within the tolerance, a seam is proposed. Edge on edge is a butt or a corner, edge on a face a tee or a lap.
 */
import { JOINTS } from '../joints';
import { isInside, pathLength, segmentDistance } from '../geometry/polyline';
import { add, cross, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { basePoint, layoutBox } from '../mesh/assemblyMesh';
import { flatMesh } from '../mesh/flatMesh';
import { crossingOf, form } from '../mesh/fold';
import type { Joint, Part } from '../document/schema';
import type { JointType } from '../document/words';

export interface SeamProposal {
	type: JointType;
	a: { part: string; path: Vec2[] };
	b: { part: string; path: Vec2[] };
	lengthMm: number;
	/** largest distance between the sides, mm */
	gapMm: number;
}

/** Seams shorter than this are corners that touch, not seams, mm. */
const SHORTEST_MM = 4;
const MOST_STEPS = 60;
/** A ring that turns more than this at a point has a corner there, rad. */
const CORNER = 0.35;
/** A proposal of which this share lies on one made before is that one seen from its other side. */
const SAME = 0.6;

interface Surface {
	part: Part;
	xyz: Float64Array;
	xy: Float64Array;
	tri: Int32Array;
	/** unit normal, by triangle */
	normals: Vec3[];
	boxes: { lo: Vec3; hi: Vec3 }[];
}

const node = (v: Float64Array, k: number): Vec3 => [v[3 * k], v[3 * k + 1], v[3 * k + 2]];

function surfaceOf(part: Part): Surface {
	const box = layoutBox(part.outline);
	const whole = Math.max(box.x1 - box.x0, box.y1 - box.y0);
	// a cone's or cylinder's chords must lie within a fraction of a millimetre of it
	const size = part.roll ? Math.max(2, Math.sqrt(8 * part.roll.radiusMm * 0.1)) : part.cone || part.dish ? whole / 40 : whole;
	const creases = (part.crossBreaks ?? []).flatMap((c) => c.corners.map((p): Vec2[] => [p, crossingOf(c)]));
	const flat = flatMesh(
		part.outline,
		part.holes,
		part.bends.map((b) => [b.from, b.to]),
		creases,
		[],
		size
	);
	const { xyz } = form(flat, part, basePoint(part));
	const normals: Vec3[] = [];
	const boxes: Surface['boxes'] = [];
	for (let e = 0; e < flat.tri.length; e += 3) {
		const t = [0, 1, 2].map((i) => node(xyz, flat.tri[e + i]));
		const n = cross(sub(t[1], t[0]), sub(t[2], t[0]));
		normals.push(scale(n, 1 / (norm(n) || 1)));
		boxes.push({
			lo: [0, 1, 2].map((d) => Math.min(t[0][d], t[1][d], t[2][d])) as Vec3,
			hi: [0, 1, 2].map((d) => Math.max(t[0][d], t[1][d], t[2][d])) as Vec3
		});
	}
	return { part, xyz, xy: flat.xy, tri: flat.tri, normals, boxes };
}

interface Taken {
	key: string;
	points: readonly Vec3[];
}

interface Near {
	distance: number;
	layout: Vec2;
	normal: Vec3;
}

/** Nearest point of a triangle, by its weights (Ericson 2005, Real-Time Collision Detection, 5.1.5). */
function closest(p: Vec3, a: Vec3, b: Vec3, c: Vec3): [number, number, number] {
	const [ab, ac, ap] = [sub(b, a), sub(c, a), sub(p, a)];
	const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
	if (d1 <= 0 && d2 <= 0) return [1, 0, 0];
	const bp = sub(p, b);
	const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
	if (d3 >= 0 && d4 <= d3) return [0, 1, 0];
	const vc = d1 * d4 - d3 * d2;
	if (vc <= 0 && d1 >= 0 && d3 <= 0) return [1 - d1 / (d1 - d3), d1 / (d1 - d3), 0];
	const cp = sub(p, c);
	const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
	if (d6 >= 0 && d5 <= d6) return [0, 0, 1];
	const vb = d5 * d2 - d1 * d6;
	if (vb <= 0 && d2 >= 0 && d6 <= 0) return [1 - d2 / (d2 - d6), 0, d2 / (d2 - d6)];
	const va = d3 * d6 - d5 * d4;
	if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
		return [0, 1 - w, w];
	}
	const sum = va + vb + vc;
	return [va / sum, vb / sum, vc / sum];
}

/** @param accept layout points that may count (a part's own neighbourhood may not) */
function nearest(s: Surface, p: Vec3, within: number, accept: (layout: Vec2) => boolean): Near | undefined {
	let best: Near | undefined;
	for (let e = 0; e < s.normals.length; e++) {
		const { lo, hi } = s.boxes[e];
		const reach = Math.min(within, best?.distance ?? within);
		if (p.some((v, d) => v < lo[d] - reach || v > hi[d] + reach)) continue;
		const k = [0, 1, 2].map((i) => s.tri[3 * e + i]);
		const [a, b, c] = k.map((i) => node(s.xyz, i));
		const w = closest(p, a, b, c);
		const q = add(add(scale(a, w[0]), scale(b, w[1])), scale(c, w[2]));
		const distance = norm(sub(p, q));
		if (distance > reach) continue;
		const layout: Vec2 = [0, 1].map((d) => k.reduce((sum, i, j) => sum + w[j] * s.xy[2 * i + d], 0)) as Vec2;
		if (accept(layout)) best = { distance, layout, normal: s.normals[e] };
	}
	return best;
}

const onRim = (p: Vec2, part: Part, within: number) =>
	[part.outline, ...part.holes].some((ring) => ring.some((q, i) => segmentDistance(p, q, ring[(i + 1) % ring.length]) <= within));

/**
 * Stretches of a ring between its corners: neighbours that run on in nearly the same direction are one edge (a circle is one).
 * Where a fold ends on the ring the edge turns in space, so it ends there too.
 */
function edgesOf(part: Part, outline: readonly Vec2[]): Vec2[][] {
	const ends = part.bends.flatMap((b) => [b.from, b.to]);
	const folds = new Set<Vec2>();
	const ring = outline.flatMap((p, i) => {
		const q = outline[(i + 1) % outline.length];
		const at = (e: Vec2) => Math.hypot(e[0] - p[0], e[1] - p[1]);
		const inside = ends
			.filter((e) => segmentDistance(e, p, q) < 0.05 && at(e) > 0.05 && Math.hypot(e[0] - q[0], e[1] - q[1]) > 0.05)
			.sort((x, y) => at(x) - at(y))
			.filter((e, k, list) => k === 0 || at(e) - at(list[k - 1]) > 0.05);
		inside.forEach((e) => folds.add(e));
		return [p, ...inside];
	});
	const n = ring.length;
	const turn = (i: number) => {
		const [p, q, r] = [ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]];
		const [a, b] = [Math.atan2(q[1] - p[1], q[0] - p[0]), Math.atan2(r[1] - q[1], r[0] - q[0])];
		const t = Math.abs(b - a);
		return t > Math.PI ? 2 * Math.PI - t : t;
	};
	const corners = [...ring.keys()].filter(
		(i) => turn(i) > CORNER || folds.has(ring[i]) || ends.some((e) => Math.hypot(e[0] - ring[i][0], e[1] - ring[i][1]) < 0.05)
	);
	if (!corners.length) return [[...ring, ring[0]]];
	return corners.map((from, k) => {
		const to = corners[(k + 1) % corners.length];
		const out: Vec2[] = [];
		for (let i = from; ; i = (i + 1) % n) {
			out.push(ring[i]);
			if (i === to && out.length > 1) break;
		}
		return out;
	});
}

/** Points along an edge, its own corners among them. */
function walk(edge: readonly Vec2[]): Vec2[] {
	const length = pathLength(edge);
	const step = Math.max(2, length / MOST_STEPS);
	const out: Vec2[] = [edge[0]];
	for (let i = 1; i < edge.length; i++) {
		const [p, q] = [edge[i - 1], edge[i]];
		const n = Math.max(1, Math.round(Math.hypot(q[0] - p[0], q[1] - p[1]) / step));
		for (let k = 1; k <= n; k++) out.push([p[0] + ((q[0] - p[0]) * k) / n, p[1] + ((q[1] - p[1]) * k) / n]);
	}
	return out;
}

/** @param toleranceMm how far apart edges may lie and still meet; @param only part that one side must belong to, or all */
export function findSeams(parts: readonly Part[], toleranceMm: number, only?: string): SeamProposal[] {
	const surfaces = parts.map(surfaceOf);
	const out: SeamProposal[] = [];
	const taken: Taken[] = [];
	surfaces.forEach((s, i) => {
		for (const ring of [s.part.outline, ...s.part.holes])
			for (const edge of edgesOf(s.part, ring)) {
				const points = walk(edge);
				const space = points.map((p) => lift(s, p));
				surfaces.forEach((t, j) => {
					if (only && s.part.id !== only && t.part.id !== only) return;
					// a panel's own neighbourhood touches it everywhere
					const far = (at: Vec2) => (layout: Vec2) => i !== j || Math.hypot(layout[0] - at[0], layout[1] - at[1]) > 2 * toleranceMm + 0.1;
					const hits = points.map((p, k) => nearest(t, space[k], toleranceMm, far(p)));
					// two edges of one part meet in their common corner, which is its own neighbour
					if (i === j)
						for (const [end, beside] of [
							[0, 1],
							[points.length - 1, points.length - 2]
						])
							if (!hits[end] && hits[beside]) hits[end] = { ...hits[beside], distance: 0, layout: points[end] };
					for (let from = 0; from < points.length; from++) {
						if (!hits[from]) continue;
						let to = from;
						while (to + 1 < points.length && hits[to + 1]) to++;
						const run = points.slice(from, to + 1);
						const there = hits.slice(from, to + 1) as Near[];
						from = to;
						propose(s, t, run, there, space.slice(to - run.length + 1, to + 1), toleranceMm, out, taken);
					}
				});
			}
	});
	return out;
}

/** Where a layout point of a part lies in space. */
function lift(s: Surface, p: Vec2): Vec3 {
	let best: Vec3 = [0, 0, 0];
	let worst = -Infinity;
	for (let e = 0; e < s.tri.length; e += 3) {
		const [a, b, c] = [s.tri[e], s.tri[e + 1], s.tri[e + 2]];
		const [ax, ay, bx, by, cx, cy] = [s.xy[2 * a], s.xy[2 * a + 1], s.xy[2 * b], s.xy[2 * b + 1], s.xy[2 * c], s.xy[2 * c + 1]];
		const det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		const wb = ((p[0] - ax) * (cy - ay) - (cx - ax) * (p[1] - ay)) / det;
		const wc = ((bx - ax) * (p[1] - ay) - (p[0] - ax) * (by - ay)) / det;
		const low = Math.min(wb, wc, 1 - wb - wc);
		if (low > worst) {
			worst = low;
			best = add(add(scale(node(s.xyz, a), 1 - wb - wc), scale(node(s.xyz, b), wb)), scale(node(s.xyz, c), wc));
		}
	}
	return best;
}

function propose(
	s: Surface,
	t: Surface,
	here: Vec2[],
	there: readonly Near[],
	space: readonly Vec3[],
	toleranceMm: number,
	out: SeamProposal[],
	taken: Taken[]
) {
	const lengthMm = pathLength(here);
	const otherLength = pathLength(there.map((h) => h.layout));
	// edges that cross or touch at a point are no seam; two lengths that differ tell a kink in between
	if (lengthMm < SHORTEST_MM || Math.abs(otherLength - lengthMm) > 0.02 * lengthMm + 0.1) return;
	const mid = Math.floor(here.length / 2);
	const rim = there.every((h) => onRim(h.layout, t.part, Math.max(0.05, toleranceMm)));
	const key = [s.part.id, t.part.id].sort().join('/');
	if (rim) {
		const within = pathLength(here) / (here.length - 1) + toleranceMm;
		const before = (p: Vec3) => taken.some((x) => x.key === key && x.points.some((q) => norm(sub(q, p)) < within));
		if (space.filter(before).length > SAME * space.length) return;
		taken.push({ key, points: space });
	}
	const along = unit(sub(space[space.length - 1], space[0]));
	const own = nearest(s, space[mid], toleranceMm + 1, (q) => Math.hypot(q[0] - here[mid][0], q[1] - here[mid][1]) < 1)!.normal;
	const straight = norm(sub(space[space.length - 1], space[0])) > 0.5 * lengthMm;
	// out of the edge, in its sheet
	const out1 = straight ? cross(along, own) : own;
	const square = Math.abs(dot(own, there[mid].normal));
	const type: JointType = rim
		? square > 0.7
			? 'butt'
			: 'corner-edge'
		: straight && Math.abs(dot(out1, there[mid].normal)) > 0.5
			? 'tee'
			: straight
				? 'lap'
				: 'port';
	const side = (part: string, path: Vec2[]) => ({ part, path: thin(path) });
	out.push({
		type,
		a: side(s.part.id, here),
		b: side(
			t.part.id,
			there.map((h) => h.layout)
		),
		lengthMm,
		gapMm: Math.max(...there.map((h) => h.distance))
	});
}

/** Drops points that lie on the line between their neighbours. */
function thin(path: Vec2[]): Vec2[] {
	return path.filter((p, i) => i === 0 || i === path.length - 1 || segmentDistance(p, path[i - 1], path[i + 1]) > 1e-6);
}

/** A joint from a proposal, with the usual defaults. */
export const jointOf = (p: SeamProposal, id: string, name: string, settings: string): Joint => ({
	id,
	name,
	type: p.type,
	a: p.a,
	b: p.b,
	gapMm: 0,
	gapMeasured: false,
	presetDeg: 0,
	penetration: JOINTS[p.type].usualPenetration,
	filler: false,
	weldSide: 'front',
	settings
});

/** True where a layout point is sheet: on the part and in no hole. */
export const isSheet = (p: Vec2, part: Part) => isInside(p, part.outline) && !part.holes.some((h) => isInside(p, h));
