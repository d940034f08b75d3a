/** What the run screen shows of a plan: the plan itself, its steps and the drawings they name. */
import type { PlanDocument } from '$core/document/schema';
import type { LineDrawing } from '$core/draw/lineDrawing';
import type { Pointed } from '$core/weldout/benchPlan';
import type { BenchStep } from '$core/weldout/benchSteps';

/** What of the shop's registers is picked from at the bench, by name. */
export interface ShopAtBench {
	fillers: { name: string; grade: string; batch: string }[];
	/** what reads each of these, with a word where its calibration has run out */
	instruments: Partial<Record<'metalC' | 'oxygenPct' | 'mm', string[]>>;
	sources: string[];
	/** what cleans and pickles, with its times in words */
	products: { name: string; words: string }[];
}

export interface BenchPlanView {
	plan: PlanDocument;
	steps: BenchStep[];
	pictures: Record<string, LineDrawing>;
	holds: Record<string, Pointed>;
	shop: ShopAtBench;
	/** of a family that is made to be filled, or of none */
	mayBeFilled: boolean;
}
