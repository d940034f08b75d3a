/** What the run screen shows of a plan: the plan itself, its steps and the drawings they name. */
import type { PlanDocument } from '$core/document/schema';
import type { LineDrawing } from '$core/draw/lineDrawing';
import type { Pointed } from '$core/weldout/benchPlan';
import type { BenchStep } from '$core/weldout/benchSteps';

export interface BenchPlanView {
	plan: PlanDocument;
	steps: BenchStep[];
	pictures: Record<string, LineDrawing>;
	holds: Record<string, Pointed>;
}
