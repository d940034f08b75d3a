/** What a drawing points at beside seams: the places of a feature as they are read, and where a hold-down goes. */
import type { AnyFeature, AnyHoldDown, PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { tapeEnds } from '../features/taped';
import { pathLength, pointAt } from '../geometry/polyline';
import { add, type Vec2, type Vec3 } from '../geometry/vec';
import { holdKind } from '../holds';
import { spaceOf } from '../layout/space';
import { METHOD_KINDS } from '../measure/methods';
import { readingContext } from '../features/context';

/** Places to be drawn, and which of them are joined by a line. */
export interface Marks {
	at: Vec3[];
	/** beside each place; none where it is empty */
	labels: string[];
	lines: [number, number][];
	/** a seam they lie along, and from where to where */
	seam?: { joint: string; fromMm: number; toMm: number };
}

const chain = (n: number): [number, number][] => Array.from({ length: Math.max(0, n - 1) }, (_, i) => [i, i + 1]);

/** A feature's places with the number of the reading that is taken there. */
export function featureMarks(feature: AnyFeature, plan: PlanDocument): Marks {
	const kind = featureKind(feature);
	const spaces = new Map(plan.parts.map((p) => [p.id, spaceOf(p)]));
	const ends = tapeEnds(feature, plan);
	const at = kind.places(feature, plan).map((p, i) => add(spaces.get(p.part)!(p.at), ends[i]));
	if (kind.shownAs === 'tapes')
		return {
			at,
			labels: at.map((_, i) => (kind.taped.length > 1 ? String(kind.taped.findIndex((pair) => pair.includes(i)) + 1) : '')),
			lines: kind.taped.map(([i, j]) => [i, j])
		};
	const count = METHOD_KINDS[kind.methods[0]].labels(readingContext(feature, plan)).length;
	// read at every place, or at so many between the two ends of a line; otherwise as a whole
	const numbers = new Map<number, string>();
	if (count === at.length) at.forEach((_, i) => numbers.set(i, String(i + 1)));
	else if (kind.shownAs === 'line') for (let i = 1; i <= count; i++) numbers.set(Math.round(((at.length - 1) * i) / (count + 1)), String(i));
	const joined = { line: chain(at.length), ring: ring(0, at.length), faces: [...ring(0, 3), ...ring(3, 3)], places: [] };
	return { at, labels: at.map((_, i) => numbers.get(i) ?? ''), lines: joined[kind.shownAs] };
}
const ring = (first: number, n: number): [number, number][] => Array.from({ length: n }, (_, i) => [first + i, first + ((i + 1) % n)]);

/** Where a hold-down goes: places on parts, a line on one, or a length of a seam. */
export function holdMarks(h: AnyHoldDown, plan: PlanDocument): Marks {
	const kind = holdKind(h);
	const space = (part: string) => spaceOf(plan.parts.find((p) => p.id === part)!);
	const line = kind.line(h);
	if (line && 'part' in h) {
		const on = space(h.part);
		const n = Math.max(2, Math.ceil(pathLength(line.path) / 40));
		const at = Array.from({ length: n }, (_, i) => on(pointAt(line.path, (pathLength(line.path) * i) / (n - 1))));
		return { at, labels: at.map(() => ''), lines: chain(n) };
	}
	const hands = kind.hands(h).filter((x) => 'part' in x);
	// where hands go is where it goes; what is only laid on or drawn down all over has places of its own
	const spots = hands.length ? hands : kind.spots(h, plan);
	if (spots.length) {
		const at = spots.map((s) => space(s.part)(s.at as Vec2));
		const isMember = kind.grips(h, plan).some((g) => g.by === 'member');
		return { at, labels: at.map(() => ''), lines: isMember ? chain(at.length) : [] };
	}
	const stretch = [...kind.grips(h, plan), ...kind.blocks(h, plan)].find((x) => 'joint' in x);
	return stretch && 'joint' in stretch
		? { at: [], labels: [], lines: [], seam: { joint: stretch.joint, fromMm: stretch.fromMm, toMm: stretch.toMm } }
		: { at: [], labels: [], lines: [] };
}
