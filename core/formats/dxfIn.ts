/**
 * Flat patterns from a DXF: closed outlines with their holes, bend lines and marks, told apart by layer. Whatever could not be
 * used is listed with its place. Lengths come out in mm; a drawing without units must be told them.
 */
import DxfParser from 'dxf-parser';
import { isInside, ringArea, selfCrosses } from '../geometry/polyline';
import { DXF_LAYERS } from './dxfOut';
import { distance2, type Vec2 } from '../geometry/vec';

export const DXF_LIMIT = 8_000_000;
/** Ends closer than this are one, mm. */
const JOINED_MM = 0.05;
/** Chords of arcs lie within this of them, mm. */
const CHORD_MM = 0.05;
const MOST_SEGMENTS = 60_000;
/** Nothing a shop cuts is drawn farther from the origin, mm. */
const FARTHEST_MM = 1e6;

export type DxfUnit = 'mm' | 'cm' | 'm' | 'in';
const MM: Record<DxfUnit, number> = { mm: 1, cm: 10, m: 1000, in: 25.4 };
/** $INSUNITS codes (DXF reference) */
const UNIT_CODES: Record<number, DxfUnit> = { 1: 'in', 4: 'mm', 5: 'cm', 6: 'm' };

export interface FlatPattern {
	outline: Vec2[];
	holes: Vec2[][];
	bends: [Vec2, Vec2][];
	marks: Vec2[][];
}

export interface Trouble {
	/** where on the drawing, mm */
	at?: Vec2;
	words: string;
}

export interface DxfRead {
	unit?: DxfUnit;
	flats: FlatPattern[];
	/** what stops it from being used */
	faults: Trouble[];
	/** what was left aside */
	unused: Trouble[];
	layers: string[];
	/** of a drawing that this program made: what it says of the piece, and its seams and bends in the order they were written */
	own: { notes: string[]; seams: Vec2[][]; bends: [Vec2, Vec2][] };
}

type Role = 'cut' | 'bend' | 'mark';

/** A layer's role by its name; anything that is not a bend or a mark is cut. */
export function roleOf(layer: string): Role {
	if (/bend|fold|crease|bieg|kant|pli/i.test(layer)) return 'bend';
	if (/mark|etch|text|scribe|dim|note|grav|anno/i.test(layer)) return 'mark';
	return 'cut';
}

/** The little of an entity that is looked at; a drawing may hold anything. */
interface Entity {
	type: string;
	layer?: string;
	vertices?: { x: number; y: number; bulge?: number }[];
	shape?: boolean;
	center?: { x: number; y: number };
	radius?: number;
	startAngle?: number;
	endAngle?: number;
	text?: string;
	majorAxisEndPoint?: { x: number; y: number };
	axisRatio?: number;
}

const finite = (p: { x: number; y: number } | undefined): p is { x: number; y: number } =>
	p !== undefined && Number.isFinite(p.x) && Number.isFinite(p.y);

/** Points along an arc, both ends included, within CHORD_MM of it. */
function arc(centre: Vec2, radius: number, from: number, sweep: number): Vec2[] {
	const step = 2 * Math.acos(Math.max(0, 1 - CHORD_MM / Math.max(radius, 2 * CHORD_MM)));
	const n = Math.max(4, Math.min(720, Math.ceil(Math.abs(sweep) / step)));
	return Array.from({ length: n + 1 }, (_, i) => {
		const a = from + (sweep * i) / n;
		return [centre[0] + radius * Math.cos(a), centre[1] + radius * Math.sin(a)];
	});
}

/** A polyline with bulges: each is the tangent of a quarter of its arc's angle (DXF reference). */
function bulged(list: readonly { p: Vec2; bulge: number }[], closedPath: boolean): Vec2[] {
	const out: Vec2[] = [];
	const n = closedPath ? list.length : list.length - 1;
	for (let i = 0; i < n; i++) {
		const [a, b] = [list[i], list[(i + 1) % list.length]];
		if (Math.abs(a.bulge) < 1e-9) out.push(a.p);
		else {
			const sweep = 4 * Math.atan(a.bulge);
			const chord = distance2(a.p, b.p);
			const radius = chord / (2 * Math.sin(Math.abs(sweep) / 2));
			const h = (radius * Math.cos(sweep / 2) * Math.sign(a.bulge)) / chord;
			const c: Vec2 = [(a.p[0] + b.p[0]) / 2 - h * (b.p[1] - a.p[1]), (a.p[1] + b.p[1]) / 2 + h * (b.p[0] - a.p[0])];
			out.push(...arc(c, radius, Math.atan2(a.p[1] - c[1], a.p[0] - c[0]), sweep).slice(0, -1));
		}
	}
	if (!closedPath) out.push(list[list.length - 1].p);
	return out;
}

/**
 * The sections that are read, if the file is whole. A DXF is pairs of lines, a whole number and its value, up to 0 / EOF (DXF
 * reference). The parser waits for ever where an end is missing, believes a polyline that says it has more points than the file
 * has lines, and loses itself in damaged tables, which nothing here needs.
 */
// eslint-disable-next-line complexity -- a record after the other, in the order of the format
function sections(text: string): { text: string; damage?: undefined } | { damage: string } {
	const lines = text.trimEnd().split(/\r\n|\r|\n/);
	const kept: string[] = [];
	let entity = '';
	let section: { name: string; from: number } | undefined;
	for (let i = 0; i + 1 < lines.length; i += 2) {
		const damaged = (words: string) => ({ damage: `Line ${i + 1} of the drawing ${words}: the file is damaged` });
		if (!/^\s*-?\d+\s*$/.test(lines[i])) return damaged(`is “${lines[i].trim().slice(0, 20)}” where a group code should be`);
		const [code, value] = [Number(lines[i]), lines[i + 1].trim()];
		if (code === 2 && entity === 'SECTION') section = { name: value, from: i - 2 };
		if (code === 0) {
			entity = value;
			if (value === 'ENDSEC') {
				if (section && (section.name === 'HEADER' || section.name === 'ENTITIES')) kept.push(lines.slice(section.from, i + 2).join('\n'));
				section = undefined;
			} else if (value === 'SECTION' && section) return damaged('begins a section inside another');
			else if (value === 'EOF') return section ? damaged('ends the file inside a section') : { text: [...kept, '0', 'EOF', ''].join('\n') };
		} else if (code === 90 && entity === 'LWPOLYLINE' && !(Number(value) >= 0 && Number(value) <= lines.length))
			return damaged(`says that a polyline has ${value.slice(0, 20)} points`);
		else if (code === 10 && entity === 'LWPOLYLINE' && Number(lines[i + 2]) !== 20) return damaged('gives a point its x and no y');
	}
	return { damage: 'The drawing ends without its end mark (EOF): it was cut short. Save or send it again' };
}

/** @param asked units to take where the drawing names none */
// eslint-disable-next-line complexity, max-lines-per-function -- a record after the other, in the order of the format
export function readDxf(text: string, asked?: DxfUnit): DxfRead {
	const out: DxfRead = { flats: [], faults: [], unused: [], layers: [], own: { notes: [], seams: [], bends: [] } };
	if (text.length > DXF_LIMIT) {
		out.faults.push({ words: `The file has ${(text.length / 1e6).toFixed(1)} MB; at most ${DXF_LIMIT / 1e6} MB are read` });
		return out;
	}
	const whole = sections(text);
	if (whole.damage !== undefined) {
		out.faults.push({ words: whole.damage });
		return out;
	}
	let drawing: { header?: Record<string, unknown>; entities?: unknown[] } | null;
	try {
		drawing = new DxfParser().parseSync(whole.text) as unknown as typeof drawing;
	} catch (e) {
		out.faults.push({ words: `This is not a DXF drawing that can be read: ${(e as Error).message}` });
		return out;
	}
	if (!drawing?.entities?.length) {
		out.faults.push({ words: 'The drawing holds nothing' });
		return out;
	}
	out.unit = UNIT_CODES[Number(drawing.header?.$INSUNITS)] ?? asked;
	if (!out.unit) {
		out.faults.push({ words: 'The drawing names no units: say whether it is in mm or inches' });
		return out;
	}
	const mm = MM[out.unit];
	const pieces: { path: Vec2[]; closed: boolean; role: Role }[] = [];
	for (const e of drawing.entities as Entity[]) {
		const layer = e.layer ?? '0';
		if (layer === DXF_LAYERS.pieceData || layer === DXF_LAYERS.pieceSeams) {
			if (e.type === 'TEXT' && typeof e.text === 'string') out.own.notes.push(e.text);
			else if (e.vertices && e.vertices.length > 1 && e.vertices.every(finite)) out.own.seams.push(e.vertices.map((p): Vec2 => [p.x * mm, p.y * mm]));
			continue;
		}
		if (!out.layers.includes(layer)) out.layers.push(layer);
		if (layer === DXF_LAYERS.bends && e.type === 'LINE' && e.vertices?.length === 2 && e.vertices.every(finite))
			out.own.bends.push(e.vertices.map((p): Vec2 => [p.x * mm, p.y * mm]) as [Vec2, Vec2]);
		const role = roleOf(layer);
		const to = (p: { x: number; y: number }): Vec2 => [p.x * mm, p.y * mm];
		if (e.type === 'LINE' && e.vertices?.length === 2 && e.vertices.every(finite)) pieces.push({ path: e.vertices.map(to), closed: false, role });
		else if ((e.type === 'LWPOLYLINE' || e.type === 'POLYLINE') && e.vertices && e.vertices.length > 1 && e.vertices.every(finite)) {
			const list = e.vertices.map((v) => ({ p: to(v), bulge: v.bulge ?? 0 }));
			pieces.push({ path: bulged(list, e.shape === true), closed: e.shape === true, role });
		} else if (e.type === 'CIRCLE' && finite(e.center) && e.radius! > 0)
			pieces.push({ path: arc(to(e.center), e.radius! * mm, 0, 2 * Math.PI).slice(0, -1), closed: true, role });
		else if (e.type === 'ARC' && finite(e.center) && e.radius! > 0) {
			let sweep = e.endAngle! - e.startAngle!;
			while (sweep <= 0) sweep += 2 * Math.PI;
			pieces.push({ path: arc(to(e.center), e.radius! * mm, e.startAngle!, sweep), closed: false, role });
		} else {
			const at = finite(e.vertices?.[0]) ? to(e.vertices[0]) : finite(e.center) ? to(e.center) : undefined;
			out.unused.push({
				at,
				words: `${e.type} on layer “${layer}” is not read${e.type === 'SPLINE' || e.type === 'ELLIPSE' ? ': turn it into arcs or a polyline' : ''}`
			});
		}
	}
	const far = pieces.flatMap((p) => p.path).find((p) => !p.every((v) => Math.abs(v) <= FARTHEST_MM));
	if (far) {
		out.faults.push({
			words: `A point of the drawing lies at ${far.map((v) => v.toPrecision(3)).join(', ')} mm: at most ${FARTHEST_MM / 1000} m from its origin is read`
		});
		return out;
	}
	const segments = pieces.reduce((n, p) => n + p.path.length, 0);
	if (segments > MOST_SEGMENTS) {
		out.faults.push({ words: `The drawing comes to ${segments} segments; at most ${MOST_SEGMENTS} are read` });
		return out;
	}
	const rings = pieces.filter((p) => p.role === 'cut' && p.closed).map((p) => p.path);
	const { closed, open } = chain(pieces.filter((p) => p.role === 'cut' && !p.closed).map((p) => p.path));
	rings.push(...closed);
	for (const o of open)
		out.faults.push({
			at: o[0],
			words: `An outline stands open between ${say(o[0])} and ${say(o[o.length - 1])}: close the gap of ${distance2(o[0], o[o.length - 1]).toFixed(2)} mm`
		});
	const sound = rings.filter((ring) => {
		if (ring.length < 3 || Math.abs(ringArea(ring)) < 1) {
			out.unused.push({ at: ring[0], words: `A closed line of no area at ${say(ring[0])}` });
			return false;
		}
		if (ring.length < 600 && selfCrosses(ring)) {
			out.faults.push({ at: ring[0], words: `The outline that starts at ${say(ring[0])} crosses itself: redraw it there` });
			return false;
		}
		return true;
	});
	// an outline lies in no other one, or in a hole of one
	const inside = sound.map(boxed);
	const within = sound.map((r, i) => [...sound.keys()].filter((k) => k !== i && inside[k](r[0])));
	const depth = within.map((w) => w.length);
	sound.forEach((ring, i) => {
		if (depth[i] % 2 === 1) return;
		const holes = sound.filter((_, k) => depth[k] === depth[i] + 1 && within[k].includes(i));
		const flat: FlatPattern = { outline: wound(ring, 1), holes: holes.map((h) => wound(h, -1)), bends: [], marks: [] };
		out.flats.push(flat);
	});
	const hosts = out.flats.map((f) => ({ f, holds: boxed(f.outline) }));
	for (const p of pieces.filter((x) => x.role !== 'cut')) {
		const middle: Vec2 = [(p.path[0][0] + p.path[p.path.length - 1][0]) / 2, (p.path[0][1] + p.path[p.path.length - 1][1]) / 2];
		const host = hosts.find((h) => h.holds(middle))?.f;
		if (!host) out.unused.push({ at: middle, words: `A ${p.role} at ${say(middle)} lies on no outline` });
		else if (p.role === 'mark') host.marks.push(p.path);
		else if (distance2(p.path[0], p.path[p.path.length - 1]) < 1)
			out.faults.push({ at: middle, words: `A bend of no length at ${say(middle)}: remove it or draw it from edge to edge` });
		else if (p.path.length > 2) out.unused.push({ at: middle, words: `A bend at ${say(middle)} is not one straight line` });
		else host.bends.push([p.path[0], p.path[p.path.length - 1]]);
	}
	if (!out.flats.length && !out.faults.length) out.faults.push({ words: 'No closed outline was found: draw the blank’s edge as closed lines' });
	return out;
}

/** Is a point inside a ring: its box first, for there may be thousands. */
function boxed(ring: Vec2[]): (p: Vec2) => boolean {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const [x, y] of ring) [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	return (p) => p[0] >= x0 && p[0] <= x1 && p[1] >= y0 && p[1] <= y1 && isInside(p, ring);
}

const say = (p: Vec2) => `[${p[0].toFixed(1)}, ${p[1].toFixed(1)}]`;
const wound = (ring: Vec2[], way: 1 | -1) => (Math.sign(ringArea(ring)) === way ? ring : [...ring].reverse());

/** Open pieces joined end to end. */
function chain(list: readonly Vec2[][]): { closed: Vec2[][]; open: Vec2[][] } {
	const cell = (p: Vec2) => `${Math.round(p[0] / (2 * JOINED_MM))},${Math.round(p[1] / (2 * JOINED_MM))}`;
	const ends = new Map<string, { piece: number; start: boolean }[]>();
	const put = (p: Vec2, piece: number, start: boolean) => {
		const key = cell(p);
		ends.set(key, [...(ends.get(key) ?? []), { piece, start }]);
	};
	list.forEach((p, i) => {
		put(p[0], i, true);
		put(p[p.length - 1], i, false);
	});
	const used = new Uint8Array(list.length);
	const meet = (p: Vec2) => {
		const [x, y] = cell(p).split(',').map(Number);
		for (let dx = -1; dx <= 1; dx++)
			for (let dy = -1; dy <= 1; dy++)
				for (const e of ends.get(`${x + dx},${y + dy}`) ?? []) {
					const q = e.start ? list[e.piece][0] : list[e.piece][list[e.piece].length - 1];
					if (!used[e.piece] && distance2(p, q) <= JOINED_MM) return e;
				}
		return undefined;
	};
	const closed: Vec2[][] = [];
	const open: Vec2[][] = [];
	for (let i = 0; i < list.length; i++) {
		if (used[i]) continue;
		used[i] = 1;
		let path = [...list[i]];
		for (let side = 0; side < 2; side++) {
			for (let e = meet(path[path.length - 1]); e; e = meet(path[path.length - 1])) {
				used[e.piece] = 1;
				const next = e.start ? list[e.piece] : [...list[e.piece]].reverse();
				path.push(...next.slice(1));
			}
			if (distance2(path[0], path[path.length - 1]) <= JOINED_MM && path.length > 3) break;
			path = path.reverse();
		}
		if (distance2(path[0], path[path.length - 1]) <= JOINED_MM && path.length > 3) closed.push(path.slice(0, -1));
		else open.push(path);
	}
	return { closed, open };
}
