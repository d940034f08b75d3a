/** Features on any piece: made of places that are pointed at, taken away again, and proposed from what the piece itself shows. */
import { copyOf } from '../document/copy';
import { freeId } from '../document/freeId';
import type { AnyFeature, PlanDocument } from '../document/schema';
import type { FeatureKind, TapeOver } from '../document/words';
import { FEATURES } from '../features';
import { generalTolerance } from '../features/general';
import type { Place } from '../features/feature';
import { checkPlan } from '../plan/check';
import { Refusal } from '../refusal/refusal';

/** A feature nobody has made yet. */
export interface FeatureWish {
	kind: FeatureKind;
	name: string;
	places: readonly Place[];
	over?: TapeOver;
}

/** Places nearer to one another than this are one, mm. */
const SAME_MM = 0.05;

/** The plan with one more feature, its tolerance the usual general class. @throws Refusal in the planner's words where it cannot be */
export function withFeature(plan: PlanDocument, wish: FeatureWish): PlanDocument {
	const next = copyOf(plan);
	const kind = FEATURES[wish.kind];
	if (wish.places.length !== kind.asks.length)
		throw new Refusal(`${wish.name}: ${kind.asks.length} places are needed, ${wish.places.length} are given`);
	const named = (p: Place): string => {
		const known = next.points.find((q) => q.part === p.part && Math.hypot(q.at[0] - p.at[0], q.at[1] - p.at[1]) < SAME_MM);
		if (known) return known.id;
		const id = freeId(
			next.points.map((q) => q.id),
			'place'
		);
		next.points.push({ id, name: `${wish.name}, ${next.points.length + 1}`.slice(0, 80), part: p.part, at: p.at });
		return id;
	};
	const id = freeId(
		next.features.map((f) => f.id),
		wish.kind
	);
	const made = {
		...kind.make(wish.places, named),
		id,
		name: wish.name,
		...(kind.taped.length && wish.over ? { over: wish.over } : {})
	} as AnyFeature;
	made.tolerance = { upper: 1, source: 'typed' };
	next.features.push(made);
	// a place off its part or given twice is said before anything is worked out from it
	const at = `features[${next.features.length - 1}]`;
	const faults = checkPlan(next).filter((f) => f.field.startsWith(at) || f.field.startsWith('points['));
	if (faults.length) throw new Refusal(`${wish.name}: ${faults.map((f) => f.allowed).join('; ')}`);
	made.tolerance = generalTolerance(made, next);
	return next;
}

/** The plan without a feature, and without places that only it looked at. */
export function withoutFeature(plan: PlanDocument, id: string): PlanDocument {
	const next = copyOf(plan);
	next.features = next.features.filter((f) => f.id !== id);
	const used = (d: PlanDocument) => new Set(JSON.stringify([d.features, d.datum ?? null]).match(/"[^"]+"/g) ?? []);
	const [before, after] = [used(plan), used(next)];
	next.points = next.points.filter((p) => !before.has(`"${p.id}"`) || after.has(`"${p.id}"`));
	return next;
}
