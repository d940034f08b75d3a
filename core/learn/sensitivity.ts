/** What the forecast of a plan says of each feature with every factor at 1, what each factor would move it by, and what else it is not sure of. */
import type { KernelFactory } from '../linalg/kernel/kernel';
import { FACTOR_NAMES, isFactor, priorFactors, Z90, type FactorName } from '../factors/factors';
import { ForecastCache, scalesOf } from '../forecast/analysis';
import { finalForecast } from '../forecast/finalForecast';
import { forecast, type Depth, type QuickForecast } from '../forecast/forecast';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { MOMENTS, type Moment } from '../document/words';
import { featureKind, unitOf } from '../features';

/** A cause of doubt, and what the feature moves by at its two ends (90 %). */
export interface Cause {
	label: string;
	low: number;
	high: number;
}

export interface Sensitivity {
	feature: string;
	name: string;
	kind: string;
	unit: 'mm' | '°';
	moment: Moment;
	depth: Depth;
	predicted: number;
	/** in another shape that the piece may take */
	other?: number;
	/** for each unit of the multiplier on force, shrinkage, angle */
	slopes: [number, number, number];
	/** standard uncertainty, the factors apart */
	spread: number;
	/** every cause of the band, the factors apart; nothing where the depth does not keep them */
	causes: Cause[];
}

const BY_ACTION: readonly FactorName[] = ['force', 'shrinkage', 'angle'];
const DEVIATIONS = FACTOR_NAMES.map((_, i) => Math.sqrt(priorFactors().covariance[i * (FACTOR_NAMES.length + 1)]));

/**
 * The linear staging alone, for features that waves do not own: at a fraction of the time, where many plans are asked about.
 * @param isCold without the heat that earlier runs have left
 */
export function linearSensitivities(plan: PlanDocument, kernel?: KernelFactory, isCold = false): Sensitivity[] {
	const cold = forecast(plan, { cache: new ForecastCache(kernel) });
	const quick = isCold ? cold : cold.warmed();
	return plan.features.filter((f) => !featureKind(f).isOwnedByWaves).flatMap((f) => MOMENTS.map((m) => ({ ...aboutOf(f), ...ofQuick(quick, f, m) })));
}

const aboutOf = (f: AnyFeature) => ({ feature: f.id, name: f.name, kind: f.kind as string, unit: unitOf(f) });

/**
 * Every feature at every moment that some depth can speak of: free of clamps the final shape, else the linear staging, and of waves the
 * linear staging says nothing. @param plan as it was run
 */
export function sensitivitiesOf(
	plan: PlanDocument,
	{ kernel, progress }: { kernel?: KernelFactory; progress?: (share: number) => void } = {}
): Sensitivity[] {
	const quick = forecast(plan, { cache: new ForecastCache(kernel) });
	const { result, sensitivity } = finalForecast(quick, { progress });
	const isFound = result.finalShape?.converged ?? false;
	const warmed = quick.warmed();
	return plan.features.flatMap((f, k) => {
		const free = result.features[k];
		const about = aboutOf(f);
		const linear = featureKind(f).isOwnedByWaves
			? []
			: MOMENTS.filter((m) => m !== 'unclamped' || !isFound).map((m) => ({ ...about, ...ofQuick(warmed, f, m) }));
		if (!isFound) return linear;
		const causes = sensitivity.parts.filter((p) => !isFactor(p.label)).map((p) => ({ label: p.label, low: p.low[k], high: p.high[k] }));
		const slopes = BY_ACTION.map(
			(name, i) => (sensitivity.slopes.get(name)?.[k] ?? 0) / Math.expm1(Z90 * DEVIATIONS[i + 1])
		) as Sensitivity['slopes'];
		return [
			...linear,
			{
				...about,
				moment: 'unclamped' as const,
				depth: result.depth,
				predicted: free.predicted,
				other: sensitivity.others[0]?.[k],
				slopes,
				spread: Math.sqrt(causes.reduce((s, c) => s + ((c.high - c.low) / 2) ** 2, 0)) / Z90,
				causes
			}
		];
	});
}

/** A step of a multiplier for slopes: the linear staging is nearly straight in it. */
const STEP = 0.05;
/** of the band, at the least, is not the factors’ doing */
const LEAST = 0.1;

function ofQuick({ analysis: a, result }: QuickForecast, f: AnyFeature, moment: Moment) {
	const mark = a.markOf(f, moment);
	const at = (by: number, i: number) => {
		const log = [0, 0, 0, 0];
		log[i + 1] = Math.log1p(by);
		return a.featureAt(f, mark, scalesOf(log));
	};
	const slopes = BY_ACTION.map((_, i) => (at(STEP, i) - at(-STEP, i)) / (2 * STEP)) as Sensitivity['slopes'];
	const { low, high } = result.features.find((x) => x.id === f.id)!.moments[moment];
	const band = ((high - low) / 2 / Z90) ** 2;
	const heat = slopes.reduce((s, v) => s + v, 0);
	const factors = [heat, ...slopes].reduce((s, v, i) => s + (v * DEVIATIONS[i]) ** 2, 0);
	return {
		moment,
		depth: 'quick' as const,
		predicted: a.featureAt(f, mark, scalesOf([0, 0, 0, 0])),
		slopes,
		spread: Math.sqrt(Math.max(band - factors, LEAST ** 2 * band)),
		causes: [] as Cause[]
	};
}
