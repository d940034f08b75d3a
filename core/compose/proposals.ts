/** What a piece could be measured by, read off its own shape: free edges, openings, panels, folds and seams. A person chooses. */
import type { Part, PlanDocument } from '../document/schema';
import type { Place } from '../features/feature';
import { isInside, nearestOnPath, pathLength, pointAt } from '../geometry/polyline';
import { cross, distance, dot, norm, scale, sub, unit, add, type Vec2, type Vec3 } from '../geometry/vec';
import { JOINTS } from '../joints';
import { spaceOf } from '../layout/space';
import { faceNormal } from '../features/faces';
import type { FeatureWish } from './features';
import { panelAt } from './panels';

/** Of each kind, the largest so many are offered. */
const MOST = 6;
/** Shorter edges and smaller panels are not worth a reading, mm. */
const EDGE_MM = 60;
const STRAIGHT_MM = 150;
const PANEL_MM = 100;
/** A field of readings keeps this share of the panel clear of its edges. */
const INSET = 0.08;
/** Cosine above which two edges run the same way. */
const PARALLEL = 0.98;
/** An edge this near to a seam is the seam, mm. */
const ON_SEAM_MM = 1;
/** Faces of a fold are looked at this far off it at most, mm. */
const REACH_MM = 60;

/** Sine of the flattest fold that a protractor is laid into: a lid on a flange lies in one plane with it. */
const LEAST_FOLD = 0.17;

interface Edge {
	part: Part;
	from: Vec2;
	to: Vec2;
	/** ends and middle in space */
	P: Vec3;
	Q: Vec3;
	M: Vec3;
	length: number;
	isStraight: boolean;
}

const mid = (a: Vec2, b: Vec2): Vec2 => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
const on = (e: Edge, share: number): Place => ({ part: e.part.id, at: pointAt([e.from, e.to], share * pathLength([e.from, e.to])) });

export function proposeFeatures(plan: PlanDocument): FeatureWish[] {
	const spaces = new Map(plan.parts.map((p) => [p.id, spaceOf(p)]));
	const edges = plan.parts.flatMap((p) => freeEdges(p, plan, spaces.get(p.id)!)).sort((a, b) => b.length - a.length);
	const straight = edges.filter((e) => e.isStraight && e.length >= EDGE_MM);
	const openings = facing(straight);
	return numbered([
		...openings
			.slice(0, MOST)
			.map(([e, f]): FeatureWish => ({ kind: 'length', name: `${span(e, f)}, middle to middle`, places: [on(e, 0.5), on(f, 0.5)] })),
		...edges
			.filter((e) => !e.isStraight && distance(e.P, e.Q) < 0.05 * e.length)
			.slice(0, MOST / 2)
			.flatMap((e) =>
				[0, 0.25].map((s): FeatureWish => ({
					kind: 'length',
					name: `Diameter at the rim of ${e.part.name}, from ${s === 0 ? 'the seam' : 'a quarter on'}`,
					places: [on(e, s), on(e, s + 0.5)]
				}))
			),
		...openings.slice(0, MOST / 2).flatMap(([e, f]): FeatureWish[] => {
			const places = [on(e, 0), on(e, 1), ...(dot(sub(e.Q, e.P), sub(f.Q, f.P)) > 0 ? [on(f, 1), on(f, 0)] : [on(f, 0), on(f, 1)])];
			return [
				{ kind: 'squareness', name: `${span(e, f)}: squareness`, places },
				{ kind: 'twist', name: `${span(e, f)}: twist`, places }
			];
		}),
		...straight
			.filter((e) => e.length >= STRAIGHT_MM)
			.slice(0, MOST)
			.map((e, i): FeatureWish => ({ kind: 'straightness', name: `Edge ${i + 1} of ${e.part.name}: straightness`, places: [on(e, 0), on(e, 1)] })),
		...plan.parts
			.flatMap(panels)
			.sort((a, b) => b.area - a.area)
			.slice(0, MOST)
			.map(({ wish }) => wish),
		...folds(plan, spaces).slice(0, MOST)
	]);
}

/** Names told apart, each kind by itself. */
function numbered(wishes: readonly FeatureWish[]): FeatureWish[] {
	const seen = new Map<string, number>();
	return wishes.map((w) => {
		const key = `${w.kind} ${w.name}`;
		const n = (seen.get(key) ?? 0) + 1;
		seen.set(key, n);
		return n === 1 ? w : { ...w, name: `${w.name} (${n})` };
	});
}

const span = (e: Edge, f: Edge) => (e.part === f.part ? `Across ${e.part.name}` : `${e.part.name} to ${f.part.name}`);

/** Edges of a blank that no seam joins, lengths on one line taken together. */
function freeEdges(part: Part, plan: PlanDocument, space: (at: Vec2) => Vec3): Edge[] {
	const seams = plan.joints.flatMap((j) => [j.a, j.b]).filter((s) => s.part === part.id);
	const isFree = (at: Vec2) => seams.every((s) => nearestOnPath(s.path, at).distance > ON_SEAM_MM);
	const corners = part.outline.filter((p, i, ring) => {
		const [a, b] = [ring[(i + ring.length - 1) % ring.length], ring[(i + 1) % ring.length]];
		const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - p[0], b[1] - p[1]];
		return Math.abs(ux * vy - uy * vx) > 1e-3 * Math.hypot(ux, uy) * Math.hypot(vx, vy);
	});
	return corners.flatMap((from, i): Edge[] => {
		const to = corners[(i + 1) % corners.length];
		if (![0.1, 0.5, 0.9].every((s) => isFree([from[0] + s * (to[0] - from[0]), from[1] + s * (to[1] - from[1])]))) return [];
		const [P, Q, M] = [space(from), space(to), space(mid(from, to))];
		const length = pathLength([from, to]);
		return [{ part, from, to, P, Q, M, length, isStraight: distance(M, scale(add(P, Q), 0.5)) < 0.002 * length && distance(P, Q) > 0.99 * length }];
	});
}

/** Pairs of edges that lie over against one another, the widest openings first. */
function facing(edges: readonly Edge[]): [Edge, Edge][] {
	const out: { pair: [Edge, Edge]; area: number }[] = [];
	edges.forEach((e, i) => {
		const along = unit(sub(e.Q, e.P));
		for (const f of edges.slice(i + 1)) {
			const between = sub(f.M, e.M);
			const across = norm(between);
			if (Math.abs(dot(along, unit(sub(f.Q, f.P)))) < PARALLEL || f.length < 0.9 * e.length) continue;
			if (across < EDGE_MM || Math.abs(dot(between, along)) > 0.05 * across) continue;
			out.push({ pair: [e, f], area: across * f.length });
		}
	});
	return out.sort((a, b) => b.area - a.area).map(({ pair }) => pair);
}

/** Flat panels between bends, with a field of readings well inside each. */
function panels(part: Part): { wish: FeatureWish; area: number }[] {
	if (part.roll || part.cone) return [];
	const found = new Map<string, { wish: FeatureWish; area: number }>();
	const xs = part.outline.map((p) => p[0]);
	const ys = part.outline.map((p) => p[1]);
	const cuts = (list: number[], bends: number[]) => [...new Set([...list, ...bends].map((v) => Math.round(v * 10) / 10))].sort((a, b) => a - b);
	const columns = cuts(
		[Math.min(...xs), Math.max(...xs)],
		part.bends.flatMap((b) => [b.from[0], b.to[0]])
	);
	const rows = cuts(
		[Math.min(...ys), Math.max(...ys)],
		part.bends.flatMap((b) => [b.from[1], b.to[1]])
	);
	for (let i = 1; i < columns.length; i++)
		for (let j = 1; j < rows.length; j++) {
			const b = panelAt(part, [(columns[i - 1] + columns[i]) / 2, (rows[j - 1] + rows[j]) / 2]);
			const [w, h] = [b.x1 - b.x0, b.y1 - b.y0];
			const key = `${b.column}/${b.row}`;
			if (found.has(key) || Math.min(w, h) < PANEL_MM) continue;
			const places = [
				[b.x0 + INSET * w, b.y0 + INSET * h],
				[b.x1 - INSET * w, b.y1 - INSET * h]
			].map((at): Place => ({ part: part.id, at: at as Vec2 }));
			const corners: Vec2[] = [places[0].at, [places[1].at[0], places[0].at[1]], places[1].at, [places[0].at[0], places[1].at[1]]];
			if (!corners.every((c) => isInside(c, part.outline))) continue;
			const isOnly = part.bends.length === 0;
			const name = isOnly ? `${part.name}: flatness` : `${part.name}, panel ${found.size + 1}: flatness`;
			found.set(key, { wish: { kind: 'flatness', name, places }, area: w * h });
		}
	return [...found.values()];
}

/** Three places on a sheet beside a line, on the side a direction points to; none where the sheet ends too soon. */
function beside(part: Part, a: Vec2, b: Vec2, sign: 1 | -1): Place[] | undefined {
	const l = pathLength([a, b]);
	const along: Vec2 = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
	const out: Vec2 = [-sign * along[1], sign * along[0]];
	const m = mid(a, b);
	for (const reach of [REACH_MM, REACH_MM / 2, REACH_MM / 4]) {
		const at = (s: number, d: number): Vec2 => [m[0] + s * along[0] + d * out[0], m[1] + s * along[1] + d * out[1]];
		const side = Math.min(reach, 0.4 * l);
		const list = [at(-side, 0.2 * reach), at(side, 0.2 * reach), at(0, reach)];
		const home = panelAt(part, list[0]);
		const isOne = list.every((p) => {
			const q = panelAt(part, p);
			return q.column === home.column && q.row === home.row && isInside(p, part.outline) && !part.holes.some((h) => isInside(p, h));
		});
		if (isOne) return list.map((p) => ({ part: part.id, at: p }));
	}
	return undefined;
}

/** Angles at bends, and at seams whose sheets stand on one another. */
function folds(plan: PlanDocument, spaces: ReadonlyMap<string, ReturnType<typeof spaceOf>>): FeatureWish[] {
	const partOf = (id: string) => plan.parts.find((p) => p.id === id)!;
	const atBends = plan.parts
		.filter((p) => !p.roll && !p.cone)
		.flatMap((p) =>
			p.bends.map((b, i) => ({
				name: `Angle at bend ${i + 1} of ${p.name}`,
				length: pathLength([b.from, b.to]),
				sides: [1, -1].map((s) => beside(p, b.from, b.to, s as 1 | -1))
			}))
		);
	const atSeams = plan.joints
		.filter((j) => !j.stock && !JOINTS[j.type].isFlat && j.a.path.length === 2 && j.b.path.length === 2)
		.map((j) => ({
			name: `Angle at ${j.name}`,
			length: pathLength(j.a.path),
			sides: [j.a, j.b].map((s) => beside(partOf(s.part), s.path[0], s.path[1], 1) ?? beside(partOf(s.part), s.path[0], s.path[1], -1))
		}));
	return [...atBends, ...atSeams]
		.filter((f) => f.length >= EDGE_MM && f.sides.every((s) => s !== undefined))
		.filter((f) => {
			const [a, b] = f.sides.map((s) => faceNormal(s!.map((p) => spaces.get(p.part)!(p.at))));
			return norm(cross(a, b)) > LEAST_FOLD;
		})
		.sort((a, b) => b.length - a.length)
		.map(({ name, sides }): FeatureWish => ({ kind: 'angle', name: name.slice(0, 80), places: sides.flatMap((s) => s!) }));
}
