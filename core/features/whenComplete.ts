/** When a feature is there to be read: at the step at which the last of its parts has come on. */
import type { AnyFeature, PlanDocument } from '../document/schema';
import type { Moment } from '../document/words';
import type { Assembly } from '../sequence/assembly';
import { tackedMark } from '../sequence/timeline';
import { featureKind } from '.';

export const stepOfFeature = (f: AnyFeature, plan: PlanDocument, assembly: Assembly): number =>
	assembly.ofParts(
		featureKind(f)
			.places(f, plan)
			.map((p) => p.part)
	);

/** The forecast's mark that goes with a reading: as tacked means with the tacks of the step that made the feature whole. */
export function markOf(f: AnyFeature, moment: Moment, plan: PlanDocument, assembly: Assembly): string {
	if (moment !== 'as-tacked') return moment;
	const step = stepOfFeature(f, plan, assembly);
	return tackedMark(assembly.steps[step], step);
}
