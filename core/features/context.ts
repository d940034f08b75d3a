/** What a reading of a feature needs to know from its plan. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import { spaceOf } from '../layout/space';
import type { ReadingContext } from '../measure/methods/method';
import { add } from '../geometry/vec';
import { featureKind } from '.';
import { tapeEnds, tapeWords } from './taped';

export function readingContext(feature: AnyFeature, plan: PlanDocument): ReadingContext {
	const kind = featureKind(feature);
	const ends = tapeEnds(feature, plan);
	const over = tapeWords(feature, ends);
	const context = kind.reading(feature, () =>
		kind.places(feature, plan).map((p, i) => add(spaceOf(plan.parts.find((x) => x.id === p.part)!)(p.at), ends[i]))
	);
	return over ? { ...context, over } : context;
}
