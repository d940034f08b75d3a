/**
 * The depth between final shape and full: every seam's arc watched along its seam (factors.ts), and the final shape found with what
 * it says of each run's pull and of the shrinkage from place to place.
 */
import { finalForecast, type FinalForecast, type FinalOptions } from '../forecast/finalForecast';
import type { Forecast, QuickForecast } from '../forecast/forecast';
import type { HotFactors } from '../response/arcFactors';
import type { PlanDocument } from '../document/schema';
import type { KernelFactory } from '../linalg/kernel/kernel';
import { aroundOf } from './around';
import { hotFactors, type HotMemory } from './factors';
import { groupOf } from './ofPlan';

export const HOT_METHOD = {
	name: 'Hot',
	words:
		'The final shape, with each arc watched as it goes along its seam: how hard each run pulls and how far the edges close from place to place follow from the tacks, the ends, the direction and what was welded before. The seam is watched flat and by itself, held as the piece holds it; where that cannot be done, the seam keeps what the section says.'
};

/**
 * What watching changes is believed to this share, one way and the other, at 90 % (own estimate): the arc is watched flat, the section
 * bends, and neither knows the other. What nobody has measured of hot metal comes beside it, by marches with other metals.
 */
export const HOT_SHARE = 0.5;
/** The same where a sheet is of carbon steel, which swells as it turns hard on cooling: that is not in the model. */
const CARBON_SHARE = 1;

export interface HotOptions extends FinalOptions {
	kernel?: KernelFactory;
	memory?: HotMemory;
	/** the final shape without the arc's factors, where it is known: told beside the new value */
	plain?: Forecast;
}

/** Every seam's arc watched, each held as the piece holds it, and as warm as other seams have left it; `isCold` without that and without other metals, where many orders are asked about. */
export function watchedFactors(quick: QuickForecast, options: Pick<HotOptions, 'kernel' | 'memory' | 'progress'> & { isCold?: boolean }): HotFactors {
	return hotFactors(quick.analysis.plan, { ...options, around: aroundOf(quick, options), isRanged: !options.isCold });
}

export function hotForecast(cold: QuickForecast, options: HotOptions = {}): FinalForecast {
	const clock = options.clock ?? (() => 0);
	const progress = options.progress ?? (() => {});
	const t0 = clock();
	const { plan } = cold.analysis;
	const hot = watchedFactors(cold, { kernel: options.kernel, memory: options.memory, progress: (p) => progress(0.6 * p) });
	const seconds = clock() - t0;
	const carbon = hot.seams.some(({ joint }) => isCarbon(plan, joint));
	const plain = cold.warmed();
	const watched = cold.watched(hot);
	const final = finalForecast(watched, {
		...options,
		progress: (p) => progress(0.6 + 0.4 * p),
		beside: [
			{ label: 'what the arc does while it passes', ends: [plain.analysis], share: carbon ? CARBON_SHARE : HOT_SHARE },
			...(hot.ends ?? []).map(({ label, seams }) => ({ label, ends: seams.map((s) => cold.watched({ ...hot, seams: s }).analysis) }))
		]
	});
	const { seams, leftOut } = hot;
	const before = new Map(options.plain?.features.map((f) => [f.id, f.predicted]));
	return {
		...final,
		result: {
			...final.result,
			depth: 'hot',
			method: { ...final.result.method, ...HOT_METHOD },
			features: final.result.features.map((f, i) => ({ ...f, quick: cold.result.features[i].predicted, finalShape: before.get(f.id) })),
			warnings: [
				...leftOutWords(plan, leftOut),
				...(plan.runs.some((r) => r.pass > 1) ? [PASSES_WORDS] : []),
				...(carbon ? [CARBON_WORDS] : []),
				...final.result.warnings
			],
			hot: { seams, leftOut },
			timings: [...final.result.timings, { name: 'arcs watched', ms: seconds }]
		}
	};
}

const CARBON_WORDS =
	'Carbon steel swells as it turns hard on cooling, and the watched arc does not know it: what watching changes is believed no further than its direction.';

const PASSES_WORDS = 'Second passes are not watched: they keep what the section says.';

const isCarbon = (plan: PlanDocument, id: string): boolean => {
	const joint = plan.joints.find((j) => j.id === id)!;
	return [joint.a, joint.b].some((side) => groupOf(plan, side.part) === 'carbon-steel');
};

/** Seams that keep what the section says, each reason once. */
function leftOutWords(plan: PlanDocument, list: readonly { joint: string; words: string }[]): string[] {
	if (!list.length) return [];
	const names = list.map((l) => `“${plan.joints.find((j) => j.id === l.joint)!.name}”`).join(', ');
	return [
		`${list.length === 1 ? 'One seam is' : `${list.length} seams are`} not watched and keep what the section says (${names}): ${list[0].words}`
	];
}
