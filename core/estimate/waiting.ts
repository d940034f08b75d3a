/** What each minute of waiting buys: the same order under other interpass ceilings, with the heat that is left in the forces. */
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import type { ShopFactors } from '../factors/factors';
import type { PlanDocument } from '../document/schema';

/** Ceilings looked at, °C, besides the plan's own. */
const CEILINGS = [80, 120, 180, 250, 350] as const;

export interface WaitingRow {
	interpassLimitC: number;
	waitS: number;
	totalS: number;
	/** by feature, quick method with the heat left by earlier runs */
	values: number[];
	isPlan: boolean;
}

export function whatWaitingBuys(
	plan: PlanDocument,
	factors: ShopFactors,
	cache: ForecastCache,
	tell: (share: number) => void = () => {}
): WaitingRow[] {
	const scales = scalesOf(factors.mean);
	const ceilings = [...new Set([...CEILINGS.filter((c) => c > plan.ambientC + 30), plan.interpassLimitC])].sort((p, q) => p - q);
	return ceilings.map((interpassLimitC, i) => {
		tell(i / ceilings.length);
		const a = analyse({ ...plan, interpassLimitC }, cache, { warm: true });
		return {
			interpassLimitC,
			waitS: a.heat!.runs.reduce((s, r) => s + r.waitS, 0),
			totalS: a.heat!.totalS,
			values: plan.features.map((f) => a.featureAt(f, 'unclamped', scales)),
			isPlan: interpassLimitC === plan.interpassLimitC
		};
	});
}
