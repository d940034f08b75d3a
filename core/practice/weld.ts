/** A plan welded in an exercise's own virtual shop. */
import { HOLD_S, TACK_S } from '../estimate/estimate';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { DEFAULT_GOALS, featureCost } from '../search/cost';
import { EXERCISE_IDS, type ExerciseId } from './ids';
import type { Welded } from './outcome';
import type { Doing } from './tools';
import { hiddenShop, VirtualPiece } from './virtualShop';

/** One shop an exercise, so that everybody who does it welds in the same: what is found best can be compared. */
const shopOf = (id: ExerciseId) => ({ ...hiddenShop(7000 + EXERCISE_IDS.indexOf(id)), slips: 0, inches: 0 });

/** What the plan comes out as in the exercise’s shop: the same hand and the same sheet each time. */
export function weldIn(id: ExerciseId, { plan, planished }: Doing, kernel?: KernelFactory): Omit<Welded, 'name'> {
	const shop = shopOf(id);
	// a seam stretched by what it lacks pulls no more (core/corrections/planishing)
	const piece = new VirtualPiece(plan, { ...shop, force: shop.force * (1 - planished) }, { seed: 40 + EXERCISE_IDS.indexOf(id), kernel });
	const values = plan.features.map((f) => piece.trueValue(f, 'unclamped'));
	return { values, minutes: minutesOf({ plan, planished }), cost: featureCost(plan.features, values, DEFAULT_GOALS) };
}

/** Minutes to planish a hundred mm of seam (own estimate). */
const PLANISH_MIN = 2;
function minutesOf({ plan, planished }: Doing): number {
	const lengths = plan.runs.map((r) => {
		const id = r.settings ?? plan.joints.find((j) => j.id === r.joint)!.settings;
		return { mm: Math.abs(r.toMm - r.fromMm), speed: plan.settings.find((s) => s.id === id)!.speedMmPerS };
	});
	const arc = lengths.reduce((s, { mm, speed }) => s + mm / speed, 0) / 60;
	const hammered = planished > 0 ? (PLANISH_MIN * lengths.reduce((s, { mm }) => s + mm, 0)) / 100 : 0;
	return arc + (TACK_S * plan.tacks.length + HOLD_S * plan.holdDowns.length) / 60 + hammered;
}
