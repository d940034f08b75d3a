/** What a pattern needs to know of a seam's shape and neighbours: rings, curves, planes, the other side of a line, mitred corners. */
import { JOINTS } from '../joints';
import { isInside, pointAt, segmentDistance } from '../geometry/polyline';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import type { PlanDocument } from '../document/schema';
import { seamsInSpace, type SeamInSpace } from './space';

/** Places looked at along a seam. */
const LOOKS = 9;
/** A seam that leaves its chord by more than this share of its length is curved. */
const CURVED = 0.02;
/** Places this near are one, mm. */
const SAME_MM = 2;

const looks = (s: SeamInSpace): Vec3[] => Array.from({ length: LOOKS }, (_, i) => s.at((s.lengthMm * i) / (LOOKS - 1)));

/** Does the seam end where it began? */
export const isRing = (s: SeamInSpace): boolean => distance(s.at(0), s.at(s.lengthMm)) < SAME_MM && distance(s.at(0), s.at(s.lengthMm / 2)) > SAME_MM;

export function isCurved(s: SeamInSpace): boolean {
	if (isRing(s)) return true;
	const [p, q] = [s.at(0), s.at(s.lengthMm)];
	const along = unit(sub(q, p));
	return looks(s).some((x) => norm(cross(sub(x, p), along)) > CURVED * s.lengthMm);
}

export const middleOf = (points: readonly Vec3[]): Vec3 => points.reduce<Vec3>((m, p) => add(m, scale(p, 1 / points.length)), [0, 0, 0]);

/** Middle of all seams by length. */
export function centreOf(seams: readonly SeamInSpace[]): Vec3 {
	const total = seams.reduce((s, x) => s + x.lengthMm, 0);
	return seams.reduce<Vec3>((m, x) => add(m, scale(middleOf(looks(x)), x.lengthMm / total)), [0, 0, 0]);
}

/**
 * Seams that lie whole in one plane with the true corner (of the planes square to x, y and z, the one that holds most weld),
 * and the rest. @returns undefined where no plane holds some of the seams but not all
 */
export function planeFirst(seams: readonly SeamInSpace[], corner: Vec3): { first: SeamInSpace[]; then: SeamInSpace[] } | undefined {
	let best: SeamInSpace[] = [];
	const weld = (list: readonly SeamInSpace[]) => list.reduce((s, x) => s + x.lengthMm, 0);
	for (const d of [2, 1, 0]) {
		const inPlane = seams.filter((s) => looks(s).every((p) => Math.abs(p[d] - corner[d]) < SAME_MM));
		if (inPlane.length < seams.length && weld(inPlane) > weld(best) + 1) best = inPlane;
	}
	return best.length ? { first: best, then: seams.filter((s) => !best.includes(s)) } : undefined;
}

/** Pairs of seams that run along one line on two sides of a sheet (the two fillets of a tee). */
export function twoSided(seams: readonly SeamInSpace[]): [SeamInSpace, SeamInSpace][] {
	const out: [SeamInSpace, SeamInSpace][] = [];
	seams.forEach((s, i) => {
		for (const o of seams.slice(i + 1)) {
			const same = (flip: boolean) => [0, 0.5, 1].every((f) => distance(s.at(f * s.lengthMm), o.at((flip ? 1 - f : f) * o.lengthMm)) < SAME_MM + 3);
			const parts = [s.joint.a.part, s.joint.b.part];
			if (parts.includes(o.joint.a.part) && parts.includes(o.joint.b.part) && (same(false) || same(true))) out.push([s, o]);
		}
	});
	return out;
}

export interface MitredCorner {
	outside: SeamInSpace[];
	faces: SeamInSpace[];
	inside: SeamInSpace[];
}

/** Corners where two members meet along several seams: sorted by how far each lies from the middle of the piece. */
export function mitredCorners(seams: readonly SeamInSpace[]): MitredCorner[] {
	const centre = centreOf(seams);
	const groups = new Map<string, SeamInSpace[]>();
	for (const s of seams) {
		// the same two members may meet at more than one corner: near ones belong together
		const key = [s.joint.a.part, s.joint.b.part].sort().join('/');
		groups.set(key, [...(groups.get(key) ?? []), s]);
	}
	const out: MitredCorner[] = [];
	for (const list of groups.values()) {
		if (list.length < 2) continue;
		const edge = list.filter((s) => JOINTS[s.joint.type].isCorner);
		const faces = list.filter((s) => s.joint.type === 'butt');
		if (!faces.length) continue;
		const far = (s: SeamInSpace) => distance(s.middle, centre);
		const reach = faces.map(far).reduce((p, q) => p + q, 0) / faces.length;
		out.push({ outside: edge.filter((s) => far(s) >= reach), inside: edge.filter((s) => far(s) < reach), faces });
	}
	return out;
}

/** Rings that stand in a row: their middles on one line. @returns them in order along it, or undefined */
export function ringsInRow(seams: readonly SeamInSpace[]): SeamInSpace[] | undefined {
	const rings = seams.filter(isRing);
	if (rings.length < 3) return undefined;
	const middles = rings.map((s) => middleOf(looks(s).slice(1)));
	const far = middles.reduce((best, m) => (distance(m, middles[0]) > distance(best, middles[0]) ? m : best), middles[0]);
	if (distance(far, middles[0]) < SAME_MM) return undefined;
	const along = unit(sub(far, middles[0]));
	if (middles.some((m) => norm(cross(sub(m, middles[0]), along)) > 0.1 * distance(far, middles[0]))) return undefined;
	const place = (i: number) => dot(sub(middles[i], middles[0]), along);
	return rings
		.map((s, i) => ({ s, at: place(i) }))
		.sort((p, q) => p.at - q.at)
		.map((x) => x.s);
}

/** Distance from a station of a seam to the nearest hole of its two sheets that the seam itself does not run along, mm. */
export function holeDistance(plan: PlanDocument, s: SeamInSpace): (station: number) => number {
	const sides = [s.joint.a, s.joint.b].map((side) => {
		const part = plan.parts.find((p) => p.id === side.part)!;
		const along = (hole: readonly Vec2[]) => side.path.some((p) => hole.some((q, k) => segmentDistance(p, q, hole[(k + 1) % hole.length]) < 0.5));
		return { path: side.path, holes: part.holes.filter((h) => !along(h) && !side.path.some((p) => isInside(p, h))) };
	});
	return (station) =>
		sides.reduce((least, { path, holes }) => {
			const p = pointAt(path, station);
			return holes.reduce((m, h) => h.reduce((n, q, k) => Math.min(n, segmentDistance(p, q, h[(k + 1) % h.length])), m), least);
		}, Infinity);
}

export const weldedSeams = (plan: PlanDocument, joints?: readonly string[]): { all: SeamInSpace[]; seams: SeamInSpace[] } => {
	const all = seamsInSpace(plan);
	return { all, seams: all.filter((s) => !s.joint.stock && (!joints || joints.includes(s.joint.id))) };
};
