/**
 * A shop with hidden true factors, for demo, teaching and tests: a piece "welded" by its plan comes out as the program's
 * own model says with the true factors, and is read with the noise of real instruments. Same seed, same readings.
 */
import { uniformFrom } from '../core/linalg/random';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { analyse, ForecastCache, scalesOf, type Analysis } from '../core/forecast/analysis';
import { readingContext } from '../core/features/context';
import { featureKind } from '../core/features';
import { METHOD_KINDS, type Method } from '../core/measure/methods';
import { Z90 } from '../core/factors/factors';
import type { AnyFeature, PlanDocument } from '../core/document/schema';
import type { Moment } from '../core/document/words';

export interface TrueFactors {
	heat: number;
	force: number;
	shrinkage: number;
	angle: number;
}

export interface Reading {
	feature: string;
	method: Method;
	readings: number[];
}

export class VirtualPiece {
	private readonly analysis: Analysis;
	private readonly scales: readonly number[];
	private readonly normal: () => number;

	constructor(
		private readonly plan: PlanDocument,
		truth: TrueFactors,
		seed: number
	) {
		this.analysis = analyse(plan, new ForecastCache(kernelFactory(WebAssembly)));
		this.scales = scalesOf([truth.heat, truth.force, truth.shrinkage, truth.angle].map(Math.log));
		const uniform = uniformFrom(seed);
		this.normal = () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
	}

	/** What this piece really is, before anybody reads it. */
	trueValue(feature: AnyFeature, moment: Moment): number {
		return this.analysis.featureAt(feature, moment, this.scales);
	}

	/** One set of readings as a person would write them down, to the step the instrument shows. */
	read(feature: AnyFeature, moment: Moment): Reading {
		const value = this.trueValue(feature, moment);
		const method = featureKind(feature).methods[0];
		const context = readingContext(feature, this.plan);
		const { reading90 } = METHOD_KINDS[method];
		const step = method === 'tape' || method === 'diagonals' ? 0.5 : 0.05;
		const noisy = (v: number) => Math.round((v + (this.normal() * reading90) / Z90) / step) * step;
		const tidy = (v: number) => Number(noisy(v).toFixed(2));
		switch (method) {
			case 'grid': {
				// a shallow bowl of the right depth: heights over a plate, lowest in the middle
				const [nx, ny] = [context.nx!, context.ny!];
				return {
					feature: feature.id,
					method,
					readings: Array.from({ length: nx * ny }, (_, i) => {
						const x = (2 * (i % nx)) / (nx - 1) - 1;
						const y = (2 * Math.floor(i / nx)) / (ny - 1) - 1;
						return tidy((value * (x * x + y * y)) / 2);
					})
				};
			}
			case 'straightedge':
				return { feature: feature.id, method, readings: [0.75, 1, 0.75].map((s) => Math.max(0, tidy(s * value))) };
			case 'diagonals':
				return { feature: feature.id, method, readings: [tidy(context.nominal! + value / 2), tidy(context.nominal! - value / 2)] };
			case 'tape':
			case 'angle':
				return { feature: feature.id, method, readings: [tidy(context.nominal! + value)] };
			case 'rock':
				return { feature: feature.id, method, readings: [Math.max(0, tidy(value))] };
			default:
				throw new Error(`${feature.name}: nobody here reads by ${method} first`);
		}
	}
}
