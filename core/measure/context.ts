/** What a reading of a feature needs to know from its plan. */
import { distance } from '../geometry/vec';
import { nominalOf, pointsOf } from '../forecast/features';
import type { AnyFeature, PlanDocument } from '../plan/schema';
import { spaceOf } from '../plan/space';
import type { ReadingContext } from './readings';

/** Gaps read under a straightedge between its ends. */
const STRAIGHTEDGE_PLACES = 3;

export function readingContext(feature: AnyFeature, plan: PlanDocument): ReadingContext {
	if (feature.kind === 'flatness') return { nx: feature.nx, ny: feature.ny, sizeMm: feature.size };
	if (feature.kind === 'straightness') return { between: STRAIGHTEDGE_PLACES };
	const points = pointsOf(feature, plan).points.map((p) => spaceOf(plan.parts.find((x) => x.id === p.part)!)(p.at));
	if (feature.kind === 'squareness') return { nominal: distance(points[0], points[2]) };
	return { nominal: nominalOf(feature, points) };
}
