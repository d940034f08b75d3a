/** What is in doubt on an open job: features whose band, by the factors in force, takes up a good part of what their limits allow. */
import { Z90, type ShopFactors } from '../factors/factors';
import { contextOf } from '../learn/context';
import { varianceBy } from '../learn/shop';
import type { Sensitivity } from '../learn/sensitivity';
import type { PlanDocument } from '../document/schema';
import type { InDoubt } from './worth';

/** A band below this share of what is allowed is no trouble to anybody. */
const LEAST = 0.05;

/** @param sensitivities of the plan @param factors in force for it */
export function doubtsOf(job: string, plan: PlanDocument, sensitivities: readonly Sensitivity[], factors: ShopFactors): InDoubt[] {
	const context = contextOf(plan);
	return plan.features.flatMap((f) => {
		const said = sensitivities.find((s) => s.feature === f.id && s.moment === 'unclamped');
		if (!said) return [];
		const half = Z90 * Math.sqrt(varianceBy(said, factors));
		const share = half / Math.min(Math.abs(f.tolerance.upper), Math.abs(f.tolerance.lower ?? f.tolerance.upper));
		return share > LEAST ? [{ job, name: f.name, context, said, weight: Math.min(1, share) }] : [];
	});
}
