/** Joints that can be set over by themselves: a straight line about which one side of the piece still swings when all else is together. */
import { seamsInSpace, type SeamInSpace } from '../layout/space';
import type { PlanDocument } from '../document/schema';
import { cross, distance, norm, sub, type Vec3 } from '../geometry/vec';

/** Off one line by no more than this share of its length, two seams are one hinge (the two fillets of a tee); or by a sheet and a half. */
const ON_LINE = 0.01;
const PLACES = [0, 0.5, 1];

const placesOf = (s: SeamInSpace) => PLACES.map((f) => s.at(f * s.lengthMm));
const offLine = (p: Vec3, from: Vec3, to: Vec3) => norm(cross(sub(p, from), sub(to, from))) / Math.max(1e-9, distance(from, to));

/** @returns groups of seams that turn about one line, each with nothing else across it; the first of each is the one to set */
export function hingesOf(plan: PlanDocument): string[][] {
	const seams = seamsInSpace(plan);
	const thickest = Math.max(...plan.parts.map((p) => p.thicknessMm));
	const out: string[][] = [];
	const taken = new Set<string>();
	for (const s of seams) {
		if (s.joint.stock || taken.has(s.joint.id) || s.joint.a.part === s.joint.b.part) continue;
		const [from, , to] = placesOf(s);
		const near = Math.max(ON_LINE * s.lengthMm, 1.5 * thickest);
		if (distance(from, to) < 0.5 * s.lengthMm || offLine(s.at(s.lengthMm / 2), from, to) > near) continue;
		const group = seams.filter((o) => !o.joint.stock && placesOf(o).every((p) => offLine(p, from, to) <= near));
		const ids = new Set(group.map((g) => g.joint.id));
		// without this line the two sides hang together by nothing
		if (isReachable(plan, s.joint.a.part, s.joint.b.part, ids)) continue;
		for (const id of ids) taken.add(id);
		out.push([s.joint.id, ...[...ids].filter((id) => id !== s.joint.id)]);
	}
	return out;
}

/** Does one part hang together with another by joints other than these? */
function isReachable(plan: PlanDocument, from: string, to: string, without: ReadonlySet<string>): boolean {
	const seen = new Set([from]);
	const todo = [from];
	for (let p = todo.pop(); p !== undefined; p = todo.pop()) {
		if (p === to) return true;
		for (const j of plan.joints) {
			if (without.has(j.id)) continue;
			for (const [here, there] of [
				[j.a.part, j.b.part],
				[j.b.part, j.a.part]
			])
				if (here === p && !seen.has(there)) {
					seen.add(there);
					todo.push(there);
				}
		}
	}
	return false;
}
