/** Putting one more thing on a piece of any family: by exact numbers, in the layout of the part it goes on. */
import { cross, dot, norm, scale, sub, unit, add as plus, type Vec2, type Vec3 } from '../geometry/vec';
import { isInside, pathLength, segmentDistance } from '../geometry/polyline';
import { circle, closed, rect } from '../families/builder';
import { copyOf } from '../document/copy';
import { freeId } from '../document/freeId';
import { placeOn, spaceOf } from '../layout/space';
import type { FamilyAddition, Joint, Part, PlanDocument } from '../document/schema';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER } from '../schools/orders';
import { tackPattern } from '../schools/tackPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { runsInOrder, tacksInOrder } from '../sequence/precedence';
import { findSeams, isSheet, jointOf } from './findSeams';
import { panelAt, placeFromEdges, placeInLayout } from './panels';
import { Refusal } from '../refusal/refusal';

export type Side = 'front' | 'back';

/** What a composition asks for. Lengths mm; places in the layout of the part it goes on. */
export type Addition =
	| { kind: 'stiffener'; part: string; from: Vec2; to: Vec2; heightMm: number; side: Side }
	| { kind: 'bracket'; part: string; from: Vec2; to: Vec2; heightMm: number; side: Side }
	| { kind: 'port'; part: string; at: Vec2; outsideMm: number; lengthMm: number; side: Side }
	| { kind: 'patch'; part: string; at: Vec2; diameterMm: number }
	/** the panel that holds the place is creased corner to corner, its crossing raised towards the side */
	| { kind: 'cross-break'; part: string; at: Vec2; heightMm: number; side: Side };

export const ADDITION_WORDS: Record<Addition['kind'], string> = {
	stiffener: 'Stiffener or baffle',
	bracket: 'Bracket',
	port: 'Port with a socket',
	patch: 'Round patch',
	'cross-break': 'Cross-break in a panel'
};
const NAMES: Record<Addition['kind'], string> = {
	stiffener: 'Stiffener',
	bracket: 'Bracket',
	port: 'Port',
	patch: 'Patch',
	'cross-break': 'Cross-break'
};

/** How near a new part's edges must come to others to be welded to them, mm. */
const MEETS_MM = 0.6;
/** Clear of seams by this many thicknesses, so that neither weld runs into the other (own estimate). */
const CLEAR_THICKNESSES = 3;
/** A crease stays this share of the panel's smaller side clear of its edges. */
const CREASE_CLEAR = 0.04;

/** @throws Refusal in the planner's words where it cannot go there */
export function addTo(plan: PlanDocument, what: Addition): PlanDocument {
	const host = plan.parts.find((p) => p.id === what.part);
	if (!host) throw new Refusal(`Part “${what.part}” is not on this piece`);
	const next = copyOf(plan);
	const id = freeId([...plan.parts.map((p) => p.id), ...(plan.family?.additions ?? []).map((a) => a.id)], what.kind);
	const name = `${NAMES[what.kind]} ${id.split('-').pop()}`;
	const ids = putOn(next, what, id, name).map((j) => j.id);
	// a family makes it again with other sizes; a piece of none keeps it as it is
	if (next.family && next.family.kind !== 'free') next.family.additions = [...(next.family.additions ?? []), toKeep(host, what, id, name)];
	if (!ids.length) return next;
	next.tacks = tacksInOrder(next, [...next.tacks, ...tackPattern(next, DEFAULT_TACKS, ids)]);
	next.runs = runsInOrder(next, [...next.runs, ...orderPattern(next, DEFAULT_ORDER, ids)]);
	return next;
}

/** Puts it on, in place, with its joints. @returns the joints to weld @throws Refusal where it cannot go there */
export function putOn(plan: PlanDocument, what: Addition, id: string, name: string): Joint[] {
	const on = plan.parts.find((p) => p.id === what.part);
	if (!on) throw new Refusal(`Part “${what.part}” is not on this piece`);
	const before = plan.joints.length;
	if (what.kind === 'cross-break') {
		crossBreak(on, what, id);
		return [];
	}
	if (what.kind === 'stiffener' || what.kind === 'bracket') standing(plan, on, what, id, name);
	else if (what.kind === 'port') port(plan, on, what, id, name);
	else patch(plan, on, what, id, name);
	const made = plan.joints.slice(before).filter((j) => !j.stock);
	if (!made.length) throw new Refusal(`“${name}” would meet nothing it could be welded to: move it`);
	return made;
}

/** By distances from named edges, so that it moves with them. */
function toKeep(host: Part, what: Addition, id: string, name: string): FamilyAddition {
	const common = { id, name, kind: what.kind, part: what.part, side: 'side' in what ? what.side : 'front' };
	switch (what.kind) {
		case 'stiffener':
		case 'bracket': {
			const middle: Vec2 = [(what.from[0] + what.to[0]) / 2, (what.from[1] + what.to[1]) / 2];
			const panel = panelAt(host, middle);
			return { ...common, at: placeFromEdges(host, what.from, panel), to: placeFromEdges(host, what.to, panel), heightMm: what.heightMm };
		}
		case 'port':
			return { ...common, at: placeFromEdges(host, what.at), acrossMm: what.outsideMm, heightMm: what.lengthMm };
		case 'patch':
			return { ...common, at: placeFromEdges(host, what.at), acrossMm: what.diameterMm };
		case 'cross-break':
			return { ...common, at: placeFromEdges(host, what.at), heightMm: what.heightMm };
	}
}

/** What was kept, in the layout as it is now. @throws Refusal where what it sat on is gone */
export function asKept(plan: PlanDocument, a: FamilyAddition): Addition {
	const host = plan.parts.find((p) => p.id === a.part);
	if (!host) throw new Refusal('the part it sat on is gone');
	const at = placeInLayout(host, a.at);
	const given = (v: number | undefined, what: string): number => {
		if (v === undefined) throw new Refusal(`its ${what} is not given`);
		return v;
	};
	switch (a.kind) {
		case 'stiffener':
		case 'bracket':
			if (!a.to) throw new Refusal('its other end is not given');
			return { kind: a.kind, part: a.part, from: at, to: placeInLayout(host, a.to), heightMm: given(a.heightMm, 'height'), side: a.side };
		case 'port':
			return { kind: 'port', part: a.part, at, outsideMm: given(a.acrossMm, 'outside'), lengthMm: given(a.heightMm, 'length'), side: a.side };
		case 'patch':
			return { kind: 'patch', part: a.part, at, diameterMm: given(a.acrossMm, 'diameter') };
		case 'cross-break':
			return { kind: 'cross-break', part: a.part, at, heightMm: given(a.heightMm, 'height'), side: a.side };
	}
}

/** Creases from corner to corner of the panel that holds the place. */
function crossBreak(host: Part, what: { at: Vec2; heightMm: number; side: Side }, id: string) {
	if (host.roll || host.cone || host.dish) throw new Refusal(`“${host.name}” is not flat: it takes no cross-break`);
	const { x0, x1, y0, y1 } = panelAt(host, what.at);
	const clear = CREASE_CLEAR * Math.min(x1 - x0, y1 - y0);
	const corners = rect(x0 + clear, y0 + clear, x1 - clear, y1 - clear);
	const [w, h] = [x1 - x0 - 2 * clear, y1 - y0 - 2 * clear];
	if (!(Math.min(w, h) >= 40)) throw new Refusal(`The panel is only ${Math.min(w, h).toFixed(0)} mm wide there: too narrow to crease`);
	if (!corners.every((p) => isInside(p, host.outline)))
		throw new Refusal(`The panel of “${host.name}” there is not four-cornered: it takes no cross-break`);
	if (host.crossBreaks?.some((c) => c.corners.some((p) => isInside(p, corners)) || isInside(corners[0], c.corners)))
		throw new Refusal(`That panel of “${host.name}” has a cross-break already: take it off first`);
	if (host.holes.some((hole) => hole.some((p) => isInside(p, corners))))
		throw new Refusal(`A hole lies in that panel of “${host.name}”: it cannot be creased across`);
	host.crossBreaks = [...(host.crossBreaks ?? []), { id, corners, heightMm: what.side === 'front' ? what.heightMm : -what.heightMm }];
}

/** A seam on the host that a ring or a line comes too near to, other than by ending at it. */
function seamInTheWay(plan: PlanDocument, host: Part, line: readonly Vec2[], endsMayMeet: boolean): Joint | undefined {
	const clear = CLEAR_THICKNESSES * host.thicknessMm;
	const length = pathLength(line);
	return plan.joints.find((j) =>
		[j.a, j.b].some((side) => {
			if (side.part !== host.id) return false;
			let along = 0;
			return line.some((p, i) => {
				if (i > 0) along += pathLength([line[i - 1], p]);
				// a plate may end against the seam of a wall
				if (endsMayMeet && Math.min(along, length - along) < clear) return false;
				return side.path.some((q, k) => k > 0 && segmentDistance(p, side.path[k - 1], q) < clear);
			});
		})
	);
}

const newPart = (host: Part, id: string, name: string, outline: Vec2[], frame: Part['frame'], more: Partial<Part> = {}): Part => ({
	id,
	name,
	material: host.material,
	thicknessMm: host.thicknessMm,
	outline,
	holes: [],
	bends: [],
	frame,
	...more
});

/** A plate standing on a line; every other sheet its edges reach is welded to it too, so it becomes a baffle where walls are. */
function standing(plan: PlanDocument, host: Part, what: { from: Vec2; to: Vec2; heightMm: number; side: Side }, id: string, name: string) {
	if (host.roll || host.cone) throw new Refusal(`“${host.name}” is not flat there: a plate cannot stand on it`);
	for (const p of [what.from, what.to]) if (!isSheet(p, host) && !near(p, host)) throw new Refusal(`[${p.join(', ')}] is not on “${host.name}”`);
	const line = Array.from({ length: 41 }, (_, i): Vec2 => [0, 1].map((d) => what.from[d] + ((what.to[d] - what.from[d]) * i) / 40) as Vec2);
	const crossed = seamInTheWay(plan, host, line, true);
	if (crossed) throw new Refusal(`It would stand across seam “${crossed.name}”: end it before, or move it`);
	if (line.slice(1, -1).some((p) => host.holes.some((h) => isInside(p, h))))
		throw new Refusal(`It would stand across a hole of “${host.name}”: move it`);
	const space = spaceOf(host);
	const [a, b] = [space(what.from), space(what.to)];
	const length = norm(sub(b, a));
	if (!(length >= 5)) throw new Refusal('It must be at least 5 mm long');
	if (!(what.heightMm >= 3)) throw new Refusal('It must be at least 3 mm high');
	const middle: Vec2 = [(what.from[0] + what.to[0]) / 2, (what.from[1] + what.to[1]) / 2];
	const up = scale(placeOn(host, middle).normal, what.side === 'front' ? 1 : -1);
	const part = newPart(host, id, name, rect(0, 0, length, what.heightMm), { origin: a, x: unit(sub(b, a)), y: up });
	plan.parts.push(part);
	join(plan, id, name);
}

/** A ring clear of the host's seams and bends, or a word that says which it crosses. */
function keepClear(plan: PlanDocument, host: Part, ring: readonly Vec2[], what: string) {
	const seam = seamInTheWay(plan, host, closed([...ring]), false);
	if (seam) throw new Refusal(`The ${what} would lie across seam “${seam.name}” or too near to it: move it`);
	if (host.bends.some((b) => ring.some((p) => segmentDistance(p, b.from, b.to) < CLEAR_THICKNESSES * host.thicknessMm)))
		throw new Refusal(`The ${what} would lie across a bend of “${host.name}” or too near to it: move it`);
}

/** Joints of a new part to all it touches. */
function join(plan: PlanDocument, id: string, name: string) {
	const settings = plan.settings[0].id;
	for (const [i, p] of findSeams(plan.parts, MEETS_MM, id).entries()) {
		if (p.a.part === p.b.part) continue;
		const other = plan.parts.find((x) => x.id === (p.a.part === id ? p.b.part : p.a.part))!;
		plan.joints.push(jointOf(p, `${id}-s${i + 1}`, `${name} to ${other.name}${i ? ` (${i + 1})` : ''}`, settings));
	}
}

const near = (p: Vec2, part: Part) => {
	const xs = part.outline.map((q) => q[0]);
	const ys = part.outline.map((q) => q[1]);
	return p[0] >= Math.min(...xs) - 0.01 && p[0] <= Math.max(...xs) + 0.01 && p[1] >= Math.min(...ys) - 0.01 && p[1] <= Math.max(...ys) + 0.01;
};

/** Directions of the layout's axes in space at a place. */
function axesAt(part: Part, at: Vec2): { x: Vec3; y: Vec3; normal: Vec3; at: Vec3 } {
	const place = placeOn(part, at);
	const space = spaceOf(part);
	const x = unit(sub(space([at[0] + 0.01, at[1]]), space([at[0] - 0.01, at[1]])));
	return { at: place.at, normal: place.normal, x, y: cross(place.normal, x) };
}

function port(plan: PlanDocument, host: Part, what: { at: Vec2; outsideMm: number; lengthMm: number; side: Side }, id: string, name: string) {
	if (host.cone) throw new Refusal('A port on a cone is not known here');
	const r = (what.outsideMm - host.thicknessMm) / 2;
	if (!(r > host.thicknessMm)) throw new Refusal(`A port of ${what.outsideMm} mm leaves no bore in sheet of ${host.thicknessMm} mm`);
	const N = 48;
	const way = what.side === 'front' ? 1 : -1;
	const R = host.roll?.radiusMm;
	if (R !== undefined && r > 0.85 * R) throw new Refusal(`A port of ${what.outsideMm} mm is too wide for a tube of ${(2 * R).toFixed(0)} mm`);
	const { at, normal, x, y } = axesAt(host, what.at);
	const out = scale(normal, way);
	// hoop and axis of a rolled wall; on a flat one any two will do
	const [hoop, axis] = host.roll?.hoop === 'y' ? [y, x] : [x, y];
	const zero = cross(hoop, out);
	const sign = Math.sign(dot(zero, axis)) || 1;
	const angles = Array.from({ length: N + 1 }, (_, i) => -Math.PI + (2 * Math.PI * i) / N);
	const around = (a: number) => (R === undefined ? r * Math.sin(a) : R * Math.asin((r * Math.sin(a)) / R));
	const ring = angles.slice(0, -1).map((a): Vec2 => {
		const [h, s] = [around(a), sign * r * Math.cos(a)];
		return host.roll?.hoop === 'y' ? [what.at[0] + s, what.at[1] + h] : [what.at[0] + h, what.at[1] + s];
	});
	if (!ring.every((p) => isSheet(p, host))) throw new Refusal(`The hole would reach beyond “${host.name}” or into another hole: move it`);
	keepClear(plan, host, ring, 'hole');
	const drop = (a: number) => (R === undefined ? 0 : (Math.sqrt(R * R - (r * Math.sin(a)) ** 2) - R) * way);
	const length = 2 * Math.PI * r;
	const foot = angles.map((a, i): Vec2 => [(length * i) / N, drop(a)]);
	host.holes.push(ring);
	plan.parts.push(
		newPart(
			host,
			id,
			name,
			[...foot, [length, what.lengthMm], [0, what.lengthMm]],
			{ origin: plus(at, scale(zero, r)), x: hoop, y: out },
			{ roll: { hoop: 'x', radiusMm: r }, base: [length / 2, 0] }
		)
	);
	const settings = plan.settings[0].id;
	const side = (part: string, path: Vec2[]) => ({ part, path });
	const common: Omit<Joint, 'id' | 'name' | 'type' | 'a' | 'b'> = {
		gapMm: 0,
		gapMeasured: false,
		presetDeg: 0,
		penetration: 'partial',
		filler: false,
		weldSide: what.side,
		settings
	};
	plan.joints.push(
		{
			...common,
			id: `${id}-stock`,
			name: `${name}, the tube’s own seam`,
			type: 'butt',
			a: side(id, [foot[0], [0, what.lengthMm]]),
			b: side(id, [foot[N], [length, what.lengthMm]]),
			stock: true
		},
		{ ...common, id: `${id}-foot`, name: `${name} to ${host.name}`, type: 'port', a: side(host.id, closed(ring)), b: side(id, foot) }
	);
}

function patch(plan: PlanDocument, host: Part, what: { at: Vec2; diameterMm: number }, id: string, name: string) {
	if (host.roll || host.cone || host.bends.length) throw new Refusal(`A patch goes on a flat part; “${host.name}” is folded or rolled`);
	const ring = circle(what.at, what.diameterMm / 2);
	if (!ring.every((p) => isSheet(p, host))) throw new Refusal(`The patch would reach beyond “${host.name}” or into another hole: move it`);
	keepClear(plan, host, ring, 'patch');
	host.holes.push(ring);
	plan.parts.push(newPart(host, id, name, ring, copyOf(host.frame)));
	plan.joints.push({
		...jointOf(
			{ type: 'butt', a: { part: host.id, path: closed(ring) }, b: { part: id, path: closed(ring) }, lengthMm: 0, gapMm: 0 },
			`${id}-ring`,
			`Round ${name}`,
			plan.settings[0].id
		)
	});
}
