/**
 * The search as a planner sees it: every school that applies and the order found, weighed alike by the final shape and with each arc
 * watched, the two best by the full method too, each against the plan as it stands; with reasons, and with what matters more where order hardly does.
 */
import type { Run } from '../document/schema';
import type { ShopFactors } from '../factors/factors';
import type { SaidStore } from '../hot/factors';
import type { KernelFactory } from '../linalg/kernel/kernel';
import type { OrderPattern } from '../schools/orders';
import type { Lever } from './levers';

export interface TableCell {
	/** by the final shape */
	value: number;
	/** against the plan as it stands: final shapes, with the paired band of the quick method */
	difference: { predicted: number; low: number; high: number };
	/** by the full method, for the best two */
	full?: number;
	/** by the final shape with each arc watched */
	hot?: number;
}

export interface TableRow {
	id: string;
	name: string;
	kind: 'now' | 'school' | 'search';
	runs: Run[];
	/** by feature of the plan, in order */
	cells: TableCell[];
	/** weighted features, time, heat and flips together, by the final shape: lower is better */
	cost: number;
	/** the same with each arc watched: where every row has it the table goes by it */
	hotCost?: number;
	totalS: number;
	waitS: number;
	flips: number;
	hottestC: number;
	/** what went wrong with this row, or empty */
	note: string;
}

export interface SearchResult {
	rows: TableRow[];
	features: { id: string; name: string; unit: 'mm' | '°' }[];
	/** schools that do not apply, and why */
	leftOut: { pattern: OrderPattern; why: string }[];
	reasons: string[];
	/** largest change that order makes to any feature, as a share of its band; below a quarter it hardly matters */
	orderMatters: number;
	matters: string;
	levers: Lever[];
	evaluated: number;
	/** [orders weighed, cost of the best so far] */
	history: [number, number][];
	stopped: boolean;
	/** whether the full method keeps the best two in their order, where it has been asked */
	byFull?: 'kept' | 'turned';
	/** whether the best by the final shape is still the best with each arc watched */
	byHot?: 'kept' | 'turned';
	/** false where the plan's final shape was not found, and the values are the quick method's */
	byFinal: boolean;
}

export interface BestSoFar {
	phase: string;
	share: number;
	evaluated: number;
	/** the best order */
	runs: Run[];
	cost: number;
	startCost: number;
	values: number[];
	history: [number, number][];
}

export interface SearchOptions {
	factors?: ShopFactors;
	kernel?: KernelFactory;
	runLengthMm?: number;
	/** every row with each arc watched, and the best two by the full method as well */
	full?: boolean;
	/** what watched arcs have come to in other jobs */
	hotAnswers?: SaidStore;
	/** mm of unlike seams that are watched for one table at most; some ten minutes' worth where nothing is said */
	mostWatchedMm?: number;
	tell?: (p: BestSoFar) => void;
	/** asked often: true ends the search with what there is */
	stop?: () => boolean;
}

/** The median length of the runs: what schools cut the seams into. */
export function usualLength(runs: readonly Run[]): number {
	const lengths = runs.map((r) => Math.abs(r.toMm - r.fromMm)).sort((a, b) => a - b);
	return lengths.length ? lengths[Math.floor(lengths.length / 2)] : 50;
}
