/** Where layout points lie in space, without the forecast's mesh: a very coarse one is enough to find the panel. */
import { pathLength, pointAt } from '../geometry/polyline';
import { cross, distance, norm, scale, sub, type Vec2, type Vec3 } from '../geometry/vec';
import { basePoint, layoutBox } from '../mesh/assemblyMesh';
import { flatMesh } from '../mesh/flatMesh';
import { crossingOf, form } from '../mesh/fold';
import type { Joint, Part, PlanDocument } from '../document/schema';

/** @returns a function from a part's layout to the assembly, mm */
export function spaceOf(part: Part): (at: Vec2) => Vec3 {
	// rolled and coned places are known by formula
	if (part.roll || part.cone)
		return (at) => {
			const one = { xy: Float64Array.from(at), tri: new Int32Array(0), bendEdges: new Map(), nodeAt: () => 0 };
			const { xyz } = form(one, part, basePoint(part));
			return [xyz[0], xyz[1], xyz[2]];
		};
	const b = layoutBox(part.outline);
	const whole = Math.max(b.x1 - b.x0, b.y1 - b.y0);
	// a folded part needs only its panels, a dished one chords short against its dish
	const size = part.dish ? whole / 24 : whole;
	const mesh = flatMesh(
		part.outline,
		part.holes,
		part.bends.map((x) => [x.from, x.to]),
		(part.crossBreaks ?? []).flatMap((c) => c.corners.map((p) => [p, crossingOf(c)])),
		[],
		size
	);
	const { xyz } = form(mesh, part, basePoint(part));
	return (at) => {
		let best: Vec3 = [0, 0, 0];
		let worst = -Infinity;
		for (let e = 0; e < mesh.tri.length; e += 3) {
			const [i, j, k] = [mesh.tri[e], mesh.tri[e + 1], mesh.tri[e + 2]];
			const [ax, ay, bx, by, cx, cy] = [mesh.xy[2 * i], mesh.xy[2 * i + 1], mesh.xy[2 * j], mesh.xy[2 * j + 1], mesh.xy[2 * k], mesh.xy[2 * k + 1]];
			const det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
			const wb = ((at[0] - ax) * (cy - ay) - (cx - ax) * (at[1] - ay)) / det;
			const wc = ((bx - ax) * (at[1] - ay) - (at[0] - ax) * (by - ay)) / det;
			const low = Math.min(wb, wc, 1 - wb - wc);
			if (low > worst) {
				worst = low;
				best = [0, 1, 2].map((d) => (1 - wb - wc) * xyz[3 * i + d] + wb * xyz[3 * j + d] + wc * xyz[3 * k + d]) as Vec3;
			}
		}
		return best;
	};
}

/** A layout point in the assembly with the part's normal there (towards its front). */
export function placeOn(part: Part, at: Vec2): { at: Vec3; normal: Vec3 } {
	const b = layoutBox(part.outline);
	const h = 1e-3 * Math.max(b.x1 - b.x0, b.y1 - b.y0);
	const space = spaceOf(part);
	const p = space(at);
	const slope = (dx: number, dy: number): Vec3 => {
		const [q, r] = [space([at[0] + dx, at[1] + dy]), space([at[0] - dx, at[1] - dy])];
		return sub(q, r);
	};
	const n = cross(slope(h, 0), slope(0, h));
	const size = norm(n);
	return { at: p, normal: size > 0 ? scale(n, 1 / size) : [0, 0, 1] };
}

export interface SeamInSpace {
	joint: Joint;
	lengthMm: number;
	/** a point at a station, mm from the datum end */
	at: (station: number) => Vec3;
	middle: Vec3;
}

export function seamsInSpace(plan: PlanDocument): SeamInSpace[] {
	const spaces = new Map(plan.parts.map((p) => [p.id, spaceOf(p)]));
	return plan.joints.map((joint) => {
		const lengthMm = pathLength(joint.a.path);
		const at = (station: number) => spaces.get(joint.a.part)!(pointAt(joint.a.path, station));
		return { joint, lengthMm, at, middle: at(lengthMm / 2) };
	});
}

/** The true starting corner, or the datum end of the first seam. */
export function trueCorner(plan: PlanDocument, seams: readonly SeamInSpace[]): Vec3 {
	const chosen = seams.find((s) => s.joint.id === plan.fitUp.trueJoint) ?? seams[0];
	if (!chosen) return [0, 0, 0];
	return chosen.at(plan.fitUp.trueEnd === 'far' ? chosen.lengthMm : 0);
}

/** Seams so that each next one lies farthest from those before it: opposite seams in turn. */
export function oppositeInTurn(seams: readonly SeamInSpace[], first: Vec3): SeamInSpace[] {
	const left = [...seams].sort((p, q) => nearEnd(p, first) - nearEnd(q, first));
	const out: SeamInSpace[] = [];
	while (left.length) {
		const last = out[out.length - 1];
		const pick =
			last && out.length % 2 === 1
				? left.reduce((best, s) => (distance(s.middle, last.middle) > distance(best.middle, last.middle) + 1e-6 ? s : best), left[0])
				: left[0];
		out.push(pick);
		left.splice(left.indexOf(pick), 1);
	}
	return out;
}

export const nearEnd = (s: SeamInSpace, p: Vec3) => Math.min(distance(s.at(0), p), distance(s.at(s.lengthMm), p));
/** True where the seam's datum end is the one nearer the point. */
export const datumIsNear = (s: SeamInSpace, p: Vec3) => distance(s.at(0), p) <= distance(s.at(s.lengthMm), p) + 1e-6;
