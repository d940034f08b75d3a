/** Until when tape, square or straightedge gets to a feature as the parts come on. */
import type { AnyFeature } from '../document/schema';
import { featureKind } from '../features';
import { stepOfFeature } from '../features/whenComplete';
import { add, scale, type Vec3 } from '../geometry/vec';
import type { Access } from './access';
import { normalAt } from './reach';

const POLES: readonly Vec3[] = [
	[0, 0, 1],
	[0, 0, -1],
	[1, 0, 0],
	[-1, 0, 0],
	[0, 1, 0],
	[0, -1, 0]
];

/** @returns the step at which a feature is whole, and the last one at which it can be read; before `from` where it never can be */
export function readableSteps(feature: AnyFeature, access: Access): { from: number; to: number } {
	const { assembly } = access.timeline;
	const from = stepOfFeature(feature, access.plan, assembly);
	let to = from - 1;
	while (to + 1 < assembly.steps.length && isReadable(feature, access, to + 1)) to++;
	return { from, to };
}

function isReadable(feature: AnyFeature, access: Access, step: number): boolean {
	const kind = featureKind(feature);
	const places = kind.places(feature, access.plan).map((p) => ({ ...normalAt(access.mesh, p.part, p.at), part: p.part }));
	if (!kind.taped.length) return places.every((p) => [1, -1].some((sign) => access.faceIsReached(p.at, scale(p.normal, sign), step)));
	return kind.taped.every(([i, j]) => tapeLies(places[i], places[j], access, step));
}

/** A tape lies from one point to the other on some side that is open, with no other sheet over it. */
function tapeLies(p: { at: Vec3; part: string }, q: { at: Vec3; part: string }, access: Access, step: number): boolean {
	const middle = scale(add(p.at, q.at), 0.5);
	const own = new Set([p.part, q.part]);
	// a sheet that meets it at one end, or that it lies on half way, is not over it
	return POLES.some((pole) => {
		const [overP, overQ, over] = [p.at, q.at, middle].map((at) => access.coversOf(at, pole, step, own));
		return ![...over].some((k) => overP.has(k) || overQ.has(k)) && access.faceIsReached(middle, pole, step);
	});
}
