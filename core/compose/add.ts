/** Putting one more thing on a piece of any family: by exact numbers, in the layout of the part it goes on. */
import { cross, dot, norm, scale, sub, unit, add as plus, type Vec2, type Vec3 } from '../geometry/vec';
import { circle, closed, rect } from '../families/builder';
import { copyOf } from '../document/copy';
import { placeOn, spaceOf } from '../layout/space';
import type { Joint, Part, PlanDocument } from '../document/schema';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER } from '../schools/orders';
import { tackPattern } from '../schools/tackPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { findSeams, isSheet, jointOf } from './findSeams';
import { Refusal } from '../refusal/refusal';

export type Side = 'front' | 'back';

/** What a composition asks for. Lengths mm; places in the layout of the part it goes on. */
export type Addition =
	| { kind: 'stiffener'; part: string; from: Vec2; to: Vec2; heightMm: number; side: Side }
	| { kind: 'bracket'; part: string; from: Vec2; to: Vec2; heightMm: number; side: Side }
	| { kind: 'port'; part: string; at: Vec2; outsideMm: number; lengthMm: number; side: Side }
	| { kind: 'patch'; part: string; at: Vec2; diameterMm: number };

export const ADDITION_WORDS: Record<Addition['kind'], string> = {
	stiffener: 'Stiffener or baffle',
	bracket: 'Bracket',
	port: 'Port with a socket',
	patch: 'Round patch'
};

/** How near a new part's edges must come to others to be welded to them, mm. */
const MEETS_MM = 0.6;

/** @throws RangeError in the planner's words where it cannot go there */
export function addTo(plan: PlanDocument, what: Addition): PlanDocument {
	const host = plan.parts.find((p) => p.id === what.part);
	if (!host) throw new Refusal(`Part “${what.part}” is not on this piece`);
	const next = copyOf(plan);
	const on = next.parts.find((p) => p.id === what.part)!;
	const before = next.joints.length;
	const id = free(
		next.parts.map((p) => p.id),
		what.kind
	);
	const name = `${{ stiffener: 'Stiffener', bracket: 'Bracket', port: 'Port', patch: 'Patch' }[what.kind]} ${id.split('-').pop()}`;
	if (what.kind === 'stiffener' || what.kind === 'bracket') standing(next, on, what, id, name);
	else if (what.kind === 'port') port(next, on, what, id, name);
	else patch(next, on, what, id, name);
	const made = next.joints.slice(before).filter((j) => !j.stock);
	if (!made.length) throw new Refusal(`“${name}” would meet nothing it could be welded to: move it`);
	const ids = made.map((j) => j.id);
	next.tacks = [...next.tacks, ...tackPattern(next, DEFAULT_TACKS, ids)]
		.map((t, i) => ({ t, i }))
		.sort((p, q) => p.t.stage - q.t.stage || p.i - q.i)
		.map((x) => x.t);
	next.runs = [...next.runs, ...orderPattern(next, DEFAULT_ORDER, ids)];
	return next;
}

const free = (taken: readonly string[], word: string) => {
	for (let i = 1; ; i++) if (!taken.includes(`${word}-${i}`)) return `${word}-${i}`;
};
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
