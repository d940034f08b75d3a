/**
 * A shop with metal, hands and instruments of its own that nobody in it knows, for demo, teaching, tests and proof. A piece "welded" by
 * its plan comes out as the final shape of another plan has it: seams run hotter or colder than set, by habit, through the day and from
 * seam to seam, gaps that are not as drawn, bars that touch better or worse, clamps that slip, sheet that is not flat; the factors of
 * its metal are hidden besides. The learner knows none of these. Same seed, same readings.
 */
import { uniformFrom } from '../linalg/random';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { forecast, SEAM_SCATTER } from '../forecast/forecast';
import { finalValues } from '../forecast/finalForecast';
import { analyse, ForecastCache, scalesOf, type Analysis } from '../forecast/analysis';
import { readingContext } from '../features/context';
import { featureKind } from '../features';
import { METHOD_KINDS, type Method } from '../measure/methods';
import { priorFactors, Z90 } from '../factors/factors';
import { CONTACTS, type Moment } from '../document/words';
import type { AnyFeature, PlanDocument } from '../document/schema';

export interface HiddenShop {
	/** multipliers of its metal and settings */
	heat: number;
	force: number;
	shrinkage: number;
	angle: number;
	/** how far one seam's heat lies from the next: standard deviation, share */
	habit: number;
	/** where in the thickness its pull sits: standard deviations of what the forecast leaves open */
	placing: number;
	/** how far its corners slide: standard deviations likewise */
	sliding: number;
	/** share by which heat goes up from the first piece of a day to the last */
	throughTheDay: number;
	/** mm, standard deviation of a gap about the one drawn */
	gapMm: number;
	/** share of pieces on which a hold-down slips and holds nothing */
	slips: number;
	/** share of tape readings that are read in inches and written down as mm */
	inches: number;
}

/** The metal of the demo shop: it shrinks a little more and turns a little less than the closed forms say; its hands are steady. */
export const DEMO_SHOP: HiddenShop = {
	heat: 1.06,
	force: 0.9,
	shrinkage: 1.22,
	angle: 0.8,
	habit: 0.03,
	placing: 0,
	sliding: 0,
	throughTheDay: 0.02,
	gapMm: 0.05,
	slips: 0,
	inches: 0
};

export interface Reading {
	feature: string;
	method: Method;
	readings: number[];
}

/** Standard normal numbers. */
export function normalsOf(seed: number): () => number {
	const uniform = uniformFrom(seed);
	return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** A shop as they come: factors as widely spread as the program's prior has them, hands and clamps within what is usual (own estimate). */
export function hiddenShop(seed: number): HiddenShop {
	const normal = normalsOf(seed);
	const { covariance } = priorFactors();
	const [heat, force, shrinkage, angle] = [0, 1, 2, 3].map((i) => Math.exp(Math.sqrt(covariance[5 * i]) * normal()));
	const upTo = (v: number) => v * Math.abs(Math.sin(normal()));
	return {
		heat,
		force,
		shrinkage,
		angle,
		// in the mean of all shops the seam's own scatter that the forecast speaks of
		habit: SEAM_SCATTER * (0.5 + upTo(0.8)),
		placing: normal(),
		throughTheDay: upTo(0.05),
		gapMm: upTo(0.15),
		slips: upTo(0.1),
		inches: upTo(0.02),
		sliding: normal()
	};
}

/** What was really done, where the plan says something else. @param piece 0, 1, … of the day */
function asReallyDone(plan: PlanDocument, shop: HiddenShop, seed: number, piece: number): PlanDocument {
	const normal = normalsOf(seed);
	const settings = [...plan.settings];
	const joints = plan.joints.map((joint) => ({ ...joint, gapMm: Math.max(0, joint.gapMm + shop.gapMm * normal()) }));
	const runs = plan.runs.map((r) => ({ ...r }));
	for (const joint of plan.joints) {
		// one hand a seam: its runs go alike
		const heat = Math.max(0.5, 1 + shop.habit * normal() + (shop.throughTheDay * piece) / 5);
		for (const run of runs.filter((r) => r.joint === joint.id)) {
			const planned = plan.settings.find((s) => s.id === (run.settings ?? joint.settings))!;
			const id = `${planned.id}/${joint.id}`;
			if (!settings.some((s) => s.id === id)) settings.push({ ...planned, id, speedMmPerS: planned.speedMmPerS / heat });
			run.settings = id;
		}
	}
	const holdDowns = plan.holdDowns.map((h) => {
		if (!('contact' in h)) return h;
		const at = CONTACTS.indexOf(h.contact) + Math.round(0.7 * normal());
		return { ...h, contact: CONTACTS[Math.min(CONTACTS.length - 1, Math.max(0, at))] };
	});
	const slipped = Math.abs(Math.sin(10 * normal())) < shop.slips ? holdDowns.findIndex((h) => !('contact' in h)) : -1;
	return { ...plan, settings, joints, runs, holdDowns: holdDowns.filter((_, i) => i !== slipped) };
}

export interface WeldOptions {
	seed: number;
	/** of the day, from 0 */
	piece?: number;
	/** `quick`: no waves, at a fraction of the time */
	depth?: 'quick' | 'final-shape';
	kernel?: KernelFactory;
	cache?: ForecastCache;
	/** reads by the finest instrument instead of the first in the list */
	isFine?: boolean;
}

export class VirtualPiece {
	private readonly analysis: Analysis;
	private readonly scales: readonly number[];
	private readonly normal: () => number;
	private readonly uniform: () => number;
	private readonly isFine: boolean;
	/** by feature, free of clamps */
	private readonly free: ReadonlyMap<string, number>;

	constructor(
		private readonly plan: PlanDocument,
		private readonly shop: HiddenShop,
		{ seed, piece = 0, depth = 'final-shape', kernel, cache = new ForecastCache(kernel), isFine = false }: WeldOptions
	) {
		const done = asReallyDone(plan, shop, seed, piece);
		const quick = depth === 'quick' ? undefined : forecast(done, { cache }).warmed();
		this.isFine = isFine;
		this.analysis = quick?.analysis ?? analyse(done, cache, { warm: true });
		const mean = [shop.heat, shop.force, shop.shrinkage, shop.angle].map(Math.log);
		this.scales = scalesOf(mean, shop.placing, shop.sliding);
		this.normal = normalsOf(seed + 7919);
		this.uniform = uniformFrom(seed + 104729);
		const values = quick ? finalValues(quick, { ...priorFactors(), mean }).values : [];
		this.free = new Map(values.map((v, i) => [plan.features[i].id, v]));
	}

	/** What this piece really is, before anybody reads it. */
	trueValue(feature: AnyFeature, moment: Moment): number {
		return (
			(moment === 'unclamped' ? this.free.get(feature.id) : undefined) ??
			this.analysis.featureAt(feature, this.analysis.markOf(feature, moment), this.scales)
		);
	}

	/** One set of readings as a person would write them down, to the step the instrument shows. */
	read(feature: AnyFeature, moment: Moment): Reading {
		const value = this.trueValue(feature, moment);
		const method = this.isFine && feature.kind === 'length' ? 'calliper' : featureKind(feature).methods[0];
		const context = readingContext(feature, this.plan);
		const { reading90 } = METHOD_KINDS[method];
		const step = method === 'tape' || method === 'diagonals' ? 0.5 : 0.05;
		const noisy = (v: number) => Math.round((v + (this.normal() * reading90) / Z90) / step) * step;
		const tidy = (v: number) => Number(noisy(v).toFixed(2));
		const taped = (v: number) => (this.uniform() < this.shop.inches ? Number((tidy(v) / 25.4).toFixed(2)) : tidy(v));
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
			case 'calliper':
				return { feature: feature.id, method, readings: [taped(context.nominal! + value)] };
			case 'angle':
				return { feature: feature.id, method, readings: [tidy(context.nominal! + value)] };
			case 'rock':
				return { feature: feature.id, method, readings: [Math.max(0, tidy(value))] };
			default:
				throw new Error(`${feature.name}: nobody here reads by ${method} first`);
		}
	}
}
