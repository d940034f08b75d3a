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
	const round = roundOf(feature, plan, context);
	return { ...context, ...(over && { over }), ...round };
}

/** An outline of fewer corners is a polygon. */
const ROUND_FROM = 12;
/** As far as this from round is round, as a share of the radius. */
const ROUND = 0.02;
/** Points a quarter of a turn apart have the fourth in the plane of a square's. */
const QUARTERS = [1, -1, 1];

/** Whether a tape goes round it, or a dial: a diameter or four quarters of a rolled wall, or of a flat ring. */
function roundOf(feature: AnyFeature, plan: PlanDocument, context: ReadingContext): Pick<ReadingContext, 'round' | 'outsideMm'> | undefined {
	const places = featureKind(feature).places(feature, plan);
	const part = plan.parts.find((p) => p.id === places[0].part)!;
	if (places.some((p) => p.part !== part.id)) return undefined;
	if (feature.kind === 'length') {
		const isDiameter = part.roll && Math.abs((context.nominal ?? 0) / (2 * part.roll.radiusMm) - 1) < ROUND;
		return isDiameter && feature.over !== 'inside' ? { round: 'rolled', outsideMm: 2 * part.roll!.radiusMm + part.thicknessMm } : undefined;
	}
	if (!context.fourth?.every((v, i) => Math.abs(v - QUARTERS[i]) < ROUND)) return undefined;
	if (part.roll) return { round: 'rolled' };
	const { outline } = part;
	const middle = [0, 1].map((d) => outline.reduce((s, p) => s + p[d], 0) / outline.length);
	const radii = outline.map((p) => Math.hypot(p[0] - middle[0], p[1] - middle[1]));
	return outline.length >= ROUND_FROM && Math.max(...radii) - Math.min(...radii) < ROUND * Math.max(...radii) ? { round: 'ring' } : undefined;
}
