/** Straightness of a row of points: greatest distance from the line through the two ends, as a straightedge shows it. */
import { cross, norm, sub, unit, type Vec3 } from '../geometry/vec';
import { Refusal } from '../refusal/refusal';

/** mm. @throws RangeError below three points or with ends at one place */
export function bowFromEnds(points: readonly Vec3[]): number {
	if (points.length < 3) throw new Refusal(`Straightness needs at least 3 points, ${points.length} given`);
	const d = sub(points[points.length - 1], points[0]);
	if (norm(d) === 0) throw new Refusal('The two ends are at the same place');
	const u = unit(d);
	return Math.max(...points.map((p) => norm(cross(sub(p, points[0]), u))));
}

/** Straightedge laid on its two ends with gaps read between (a hump held off the ends gives negative gaps): the largest departure. */
export function straightedgeBow(gapsMm: readonly number[]): number {
	if (gapsMm.length < 1) throw new Refusal('At least one gap is needed');
	return Math.max(...gapsMm.map(Math.abs));
}
