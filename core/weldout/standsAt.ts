/**
 * Where a sheet goes whose edge meets the face of another: nothing there shows it, so the line is marked out first. Given as a shop marks
 * it, square off the edges.
 */
import { isClosed, isInside, nearestOnPath, pointAt, pathLength, ringMiddle } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { Joint, Part, PlanDocument } from '../document/schema';

/** What lies on its seam’s line: the sheet’s edge, or the middle of its thickness. */
type Lies = 'edge' | 'middle';

export interface Stand {
	/** sheet that is marked, and the one that goes there */
	host: string;
	part: string;
	lies: Lies;
	marks: Mark[];
}
/** How far to what one measures from, mm. */
interface Off {
	mm: number;
	from: 'edge' | 'fold';
}
export type Mark =
	/** square off it to either hand, at its zero end and its far end; and on along it from its ends */
	| { is: 'line'; left: [Off, Off]; right: [Off, Off]; before: Off; beyond: Off }
	/** its middle, one way and square to it */
	| { is: 'circle'; diameterMm: number; across: [Off, Off]; up: [Off, Off] };

/** Nearer to an edge than this the edge itself shows where it goes, mm. */
const AT_EDGE = 1;
/** Points whose direction turns by less than this are one line. */
const STRAIGHT = 1e-3;
/** Radii that differ by less than this share are a circle’s. */
const ROUND = 0.01;

/** @param joints of what comes on */
export function standsOf(plan: Pick<PlanDocument, 'parts'>, joints: readonly Joint[]): Stand[] {
	const seen = new Set<string>();
	const stands = new Map<string, Stand>();
	for (const j of joints)
		for (const [host, other] of [
			[j.a, j.b],
			[j.b, j.a]
		]) {
			const sheet = plan.parts.find((p) => p.id === host.part)!;
			const pair = `${host.part}/${other.part}`;
			// a fillet on each side of the same sheet stands on one line
			const line = `${pair}/${JSON.stringify(host.path)}`;
			if (host.part === other.part || seen.has(line) || !isInFace(host.path, sheet)) continue;
			seen.add(line);
			const stand = stands.get(pair) ?? { host: host.part, part: other.part, lies: j.type === 'lap' ? 'edge' : 'middle', marks: [] };
			stand.marks.push(...marksOf(host.path, sheet));
			stands.set(pair, stand);
		}
	return [...stands.values()];
}

function isInFace(path: readonly Vec2[], sheet: Part): boolean {
	const middle = pointAt(path, pathLength(path) / 2);
	const rings = [sheet.outline, ...sheet.holes].map(closedRing);
	return isInside(middle, sheet.outline) && rings.every((r) => nearestOnPath(r, middle).distance > Math.max(AT_EDGE, sheet.thicknessMm));
}
const closedRing = (ring: readonly Vec2[]): Vec2[] => (isClosed(ring) ? [...ring] : [...ring, ring[0]]);

function marksOf(path: readonly Vec2[], sheet: Part): Mark[] {
	const line = corners(path);
	const circle = line.length > 8 && isClosed(path) ? circleOf(path) : undefined;
	if (circle) {
		const to = (way: Vec2) => reach(circle.middle, way, sheet);
		return [{ is: 'circle', diameterMm: 2 * circle.radius, across: [to([-1, 0]), to([1, 0])], up: [to([0, -1]), to([0, 1])] }];
	}
	return line.slice(1).map((q, i): Mark => {
		const p = line[i];
		const l = Math.hypot(q[0] - p[0], q[1] - p[1]);
		const along: Vec2 = [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
		// just inside its ends: an end on an edge is measured beside that edge, not along it
		const inset = Math.min(0.5, l / 4);
		const ends = [pointAt([p, q], inset), pointAt([p, q], l - inset)];
		const square = (way: Vec2) => ends.map((e) => reach(e, way, sheet)) as [Off, Off];
		return {
			is: 'line',
			left: square([-along[1], along[0]]),
			right: square([along[1], -along[0]]),
			before: less(reach(ends[0], [-along[0], -along[1]], sheet), inset),
			beyond: less(reach(ends[1], along, sheet), inset)
		};
	});
}

/** Only where it turns. */
function corners(path: readonly Vec2[]): Vec2[] {
	return path.filter((p, i) => {
		if (i === 0 || i === path.length - 1) return true;
		const [u, v] = [i - 1, i].map((k): Vec2 => [path[k + 1][0] - path[k][0], path[k + 1][1] - path[k][1]]);
		return Math.abs(u[0] * v[1] - u[1] * v[0]) > STRAIGHT * Math.hypot(...u) * Math.hypot(...v);
	});
}

function circleOf(path: readonly Vec2[]): { middle: Vec2; radius: number } | undefined {
	const ring = path.slice(0, -1);
	const middle = ringMiddle(ring);
	const radii = ring.map((p) => Math.hypot(p[0] - middle[0], p[1] - middle[1]));
	const radius = radii.reduce((s, r) => s + r, 0) / radii.length;
	return radii.every((r) => Math.abs(r - radius) < ROUND * radius) ? { middle, radius } : undefined;
}

const less = ({ mm, from }: Off, by: number): Off => ({ mm: Math.max(0, mm - by), from });

/** From a place on, to the first edge or fold that is met. */
function reach([x, y]: Vec2, [dx, dy]: Vec2, { outline, bends }: Part): Off {
	const ring = closedRing(outline);
	const edges = ring.slice(1).map((to, i) => ({ at: ring[i], to, from: 'edge' as const }));
	const folds = bends.map((b) => ({ at: b.from, to: b.to, from: 'fold' as const }));
	const met = [...folds, ...edges].flatMap(({ at: [ax, ay], to: [bx, by], from }): Off[] => {
		const [ex, ey] = [bx - ax, by - ay];
		const det = ex * dy - ey * dx;
		if (Math.abs(det) < 1e-12) return [];
		const t = (ex * (ay - y) - ey * (ax - x)) / det;
		const s = (dx * (ay - y) - dy * (ax - x)) / det;
		return t >= -1e-9 && s >= -1e-9 && s <= 1 + 1e-9 ? [{ mm: Math.max(0, t), from }] : [];
	});
	return met.reduce((p, q) => (q.mm < p.mm ? q : p));
}

/** Alike to what a rule tells, mm. */
const ALIKE = 0.25;
type Length = (mm: number) => string;

/** What is measured square off a mark, and how far it goes: lines that lie alike are told together. */
function markWords(m: Mark, length: Length): { at: string; ends: string } {
	const off = ({ mm, from }: Off) => `${length(mm)} from the ${from}`;
	if (m.is === 'circle') {
		const both = ([p, q]: [Off, Off]) => `${off(p)} and ${off(q)}`;
		return { at: `a circle of ${length(m.diameterMm)}, its middle ${both(m.across)} across, ${both(m.up)} up`, ends: '' };
	}
	const side = ([p, q]: [Off, Off]) => (Math.abs(p.mm - q.mm) < ALIKE ? off(p) : `${off(p)} at its zero end and ${length(q.mm)} at the other`);
	// the nearer edge first: it is what one measures from
	const [near, far] = m.left[0].mm + m.left[1].mm <= m.right[0].mm + m.right[1].mm ? [m.left, m.right] : [m.right, m.left];
	const end = ({ mm, from }: Off) => (mm < ALIKE ? `the ${from}` : `${length(mm)} short of the ${from}`);
	// with one of the two it is marked; the other proves it
	const isHalfway = Math.abs(near[0].mm - far[0].mm) + Math.abs(near[1].mm - far[1].mm) < ALIKE && near[0].from === far[0].from;
	const at = isHalfway ? `a line halfway, ${side(near)}` : `a line ${side(near)} (${side(far).replace('the edge', 'the other edge')})`;
	return { at, ends: `from ${end(m.before)} to ${end(m.beyond)}` };
}

/** @param name of a part @param length lengths in the person’s unit @returns a line for each sheet that stands, sheets marked alike told together */
export function standWords(stands: readonly Stand[], name: (part: string) => string, length: Length): string[] {
	const hosts = new Map<string, string[]>();
	for (const s of stands) {
		const said = whereWords(s, name, length);
		hosts.set(said, [...(hosts.get(said) ?? []), name(s.host)]);
	}
	return [...hosts].map(([said, on]) => `Mark on ${on.join(' and ')} ${said}`);
}
function whereWords({ part, lies, marks }: Stand, name: (part: string) => string, length: Length): string {
	const lines = new Map<string, string[]>();
	for (const m of marks) {
		const { at, ends } = markWords(m, length);
		lines.set(at, [...(lines.get(at) ?? []), ends]);
	}
	const counted = (ends: string[]) =>
		[...new Set(ends)].map((e) => {
			const times = ends.filter((x) => x === e).length;
			return times > 1 ? `${times} times ${e}` : e;
		});
	const said = [...lines].map(([at, ends]) => [at, ...counted(ends)].filter(Boolean).join(', '));
	const goes = lies === 'edge' ? `the edge of ${name(part)} to it` : `the middle of ${name(part)} on it`;
	return `${said.join('; ')}: ${goes}.`;
}
