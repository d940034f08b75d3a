/** Predicted against measured for one piece, and the factors that its readings move. */
import type { KernelFactory } from '../linalg/kernel/kernel';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { forecast, type Band } from '../forecast/forecast';
import type { PlanDocument } from '../document/schema';
import { isForecast, type Moment, type ReadMoment } from '../document/words';
import { featureKind, unitOf } from '../features';
import { learn, Z90, type Learned, type Observation, type ShopFactors } from '../factors/factors';

export interface PieceReading {
	id: string;
	feature: string;
	moment: Moment;
	value: number;
	uncertainty90: number;
}

/** Readings that the welds alone have made: at moments the forecast speaks of, and before anybody put the piece right. @param rightedAt ms since 1970 */
export const ofWelds = <R extends { moment: ReadMoment; at: number }>(readings: readonly R[], rightedAt?: number): (R & { moment: Moment })[] =>
	readings.filter((r): r is R & { moment: Moment } => isForecast(r.moment) && (rightedAt === undefined || r.at < rightedAt));

export interface ComparisonRow {
	reading: string;
	feature: string;
	name: string;
	unit: 'mm' | '°';
	moment: Moment;
	measured: number;
	uncertainty90: number;
	before: Band;
	after?: Band;
	learnable: boolean;
	outlier: boolean;
}

export interface PieceLesson {
	rows: ComparisonRow[];
	/** absent when no reading is of a kind the linear method can speak of */
	learned?: Learned;
	/** leave-one-out: each reading predicted by factors from the others, root mean square, by unit */
	leaveOneOut: { unit: string; error: number; count: number }[];
}

/** @param fresh ids of readings that the prior has not seen; only these move the factors. @param kernel of the host */
export function lessonFrom(
	plan: PlanDocument,
	prior: ShopFactors,
	readings: readonly PieceReading[],
	fresh: ReadonlySet<string>,
	kernel?: KernelFactory
): PieceLesson {
	const cache = new ForecastCache(kernel);
	const before = forecast(plan, { factors: prior, cache }).result;
	const a = analyse(plan, cache);
	const known = readings.filter((r) => plan.features.some((f) => f.id === r.feature));
	const observed = known
		.filter((r) => fresh.has(r.id) && featureKind(plan.features.find((f) => f.id === r.feature)!).teaches)
		.map((r): { id: string; unit: string; observation: Observation } => {
			const feature = plan.features.find((f) => f.id === r.feature)!;
			return {
				id: r.id,
				unit: unitOf(feature),
				observation: {
					label: `${feature.name}, ${r.moment}`,
					measured: r.value,
					sigma: r.uncertainty90 / Z90,
					predict: (log) => a.featureAt(feature, a.markOf(feature, r.moment), scalesOf(log))
				}
			};
		});
	const learned = observed.length
		? learn(
				prior,
				observed.map((o) => o.observation),
				1
			)
		: undefined;
	const after = learned ? forecast(plan, { factors: learned.posterior, cache }).result : undefined;
	const squares = new Map<string, { sum: number; count: number }>();
	if (observed.length > 1)
		observed.forEach((left, i) => {
			const others = learn(
				prior,
				observed.filter((_, k) => k !== i).map((o) => o.observation),
				1
			);
			const s = squares.get(left.unit) ?? { sum: 0, count: 0 };
			s.sum += (left.observation.measured - left.observation.predict(others.posterior.mean)) ** 2;
			s.count++;
			squares.set(left.unit, s);
		});
	return {
		rows: known.map((r) => {
			const feature = before.features.find((f) => f.id === r.feature)!;
			const k = observed.findIndex((o) => o.id === r.id);
			return {
				reading: r.id,
				feature: r.feature,
				name: feature.name,
				unit: feature.unit,
				moment: r.moment,
				measured: r.value,
				uncertainty90: r.uncertainty90,
				before: feature.moments[r.moment],
				after: after?.features.find((f) => f.id === r.feature)!.moments[r.moment],
				learnable: featureKind(feature).teaches,
				outlier: k >= 0 && learned!.rows[k].outlier
			};
		}),
		learned,
		leaveOneOut: [...squares].map(([unit, s]) => ({ unit, error: Math.sqrt(s.sum / s.count), count: s.count }))
	};
}
