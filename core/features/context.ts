/** What a reading of a feature needs to know from its plan. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { spaceOf } from '../layout/space';
import type { ReadingContext } from '../measure/methods/method';
import { featureKind } from '.';

export function readingContext(feature: AnyFeature, plan: PlanDocument): ReadingContext {
	const kind = featureKind(feature);
	return kind.reading(feature, () => kind.places(feature, plan).map((p) => spaceOf(plan.parts.find((x) => x.id === p.part)!)(p.at)));
}
