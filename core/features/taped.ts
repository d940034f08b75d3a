/**
 * Where a tape really touches. The drawing is made of sheets' middles; a hook or the end of a rule lies on a face. Each end of a
 * taped length moves by half the thickness of every sheet that stands there across the tape: the point's own, and the ones joined to
 * it. An edge that the tape runs off stays where it is.
 */
import type { AnyFeature, Part, PlanDocument } from '../document/schema';
import { TAPE_WORDS, type TapeOver } from '../document/words';
import { isInside, nearestOnPath, pathLength, pointAt } from '../geometry/polyline';
import { add, cross, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { spaceOf } from '../layout/space';
import { featureKind } from '.';

/** Sine above which a sheet stands across the tape: a diagonal crosses a long box's end walls at less than half. */
const ACROSS = 0.2;
/** Cosine above which two sheets of one corner are one and the same. */
const SAME = 0.95;
/** How far beside the point a sheet is looked for, and the size of the look, mm. */
const BESIDE = 0.6;
const LOOK = 0.05;
const WAYS: readonly Vec2[] = Array.from({ length: 8 }, (_, i) => [Math.cos((i * Math.PI) / 4 + 0.2), Math.sin((i * Math.PI) / 4 + 0.2)]);

type Spaces = (part: Part) => (at: Vec2) => Vec3;

/** Each part's way into space, made when it is first asked for. */
function spacesOf(): Spaces {
	const known = new Map<string, (at: Vec2) => Vec3>();
	return (part) => {
		const found = known.get(part.id) ?? spaceOf(part);
		known.set(part.id, found);
		return found;
	};
}

/** Normals of the sheets that meet at a place, each with its thickness. */
function sheetsAt(plan: PlanDocument, spaces: Spaces, part: string, at: Vec2): { normal: Vec3; thickness: number }[] {
	const found: { normal: Vec3; thickness: number }[] = [];
	const look = (p: Part, q: Vec2) => {
		const space = spaces(p);
		for (const way of WAYS) {
			const beside: Vec2 = [q[0] + BESIDE * way[0], q[1] + BESIDE * way[1]];
			if (!isInside(beside, p.outline) || p.holes.some((h) => isInside(beside, h))) continue;
			const o = space(beside);
			const n = cross(sub(space([beside[0] + LOOK, beside[1]]), o), sub(space([beside[0], beside[1] + LOOK]), o));
			if (norm(n) === 0) continue;
			const normal = unit(n);
			if (!found.some((x) => Math.abs(dot(x.normal, normal)) > SAME)) found.push({ normal, thickness: p.thicknessMm });
		}
	};
	const own = plan.parts.find((p) => p.id === part)!;
	look(own, at);
	for (const j of plan.joints)
		for (const [here, there] of [
			[j.a, j.b],
			[j.b, j.a]
		]) {
			if (here.part !== part) continue;
			const near = nearestOnPath(here.path, at);
			if (near.distance > 1.5 * own.thicknessMm) continue;
			const share = near.station / pathLength(here.path);
			look(
				plan.parts.find((p) => p.id === there.part)!,
				pointAt(there.path, share * pathLength(there.path))
			);
		}
	return found;
}

const overOf = (feature: AnyFeature): TapeOver => ('over' in feature && feature.over) || 'outside';

/** Outwards or inwards at each end of a tape. */
const SIGNS: Record<TapeOver, readonly [number, number]> = { outside: [1, 1], inside: [-1, -1], 'same-side': [-1, 1] };

/** How far the tape's end lies from each place of a feature, mm in space; nothing for features that no tape reads. */
export function tapeEnds(feature: AnyFeature, plan: PlanDocument): Vec3[] {
	const kind = featureKind(feature);
	const places = kind.places(feature, plan);
	const ends = places.map((): Vec3 => [0, 0, 0]);
	if (!kind.taped.length) return ends;
	const over = overOf(feature);
	const spaces = spacesOf();
	const partOf = (i: number) => plan.parts.find((p) => p.id === places[i].part)!;
	for (const pair of kind.taped) {
		const at = pair.map((i) => spaces(partOf(i))(places[i].at));
		const along = unit(sub(at[1], at[0]));
		pair.forEach((i, end) => {
			const away = scale(along, end === 0 ? -1 : 1);
			for (const { normal, thickness } of sheetsAt(plan, spaces, places[i].part, places[i].at)) {
				const across = dot(normal, away);
				if (Math.abs(across) < ACROSS) continue;
				ends[i] = add(ends[i], scale(normal, (SIGNS[over][end] * Math.sign(across) * thickness) / 2));
			}
		});
	}
	return ends;
}

/** Said where a tape is read: which faces it lies between, or that it runs from edge to edge. */
export function tapeWords(feature: AnyFeature, ends: readonly Vec3[]): string | undefined {
	if (!featureKind(feature).taped.length) return undefined;
	return ends.some((v) => norm(v) > 0) ? TAPE_WORDS[overOf(feature)] : 'edge to edge';
}
