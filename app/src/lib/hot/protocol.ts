/** What crosses between the page and the worker that watches seams. */
import type { HotChange } from '$core/hot/ofPlan';
import type { TackTrial, Watched } from '$core/hot/watch';
import type { PlanDocument } from '$core/document/schema';
import type { Outcome } from '$lib/in-worker';

export interface HotApi {
	watch(plan: PlanDocument, joint: string, change: HotChange, share: (p: number) => void): Outcome<Watched>;
	tacks(plan: PlanDocument, joint: string, tell: (trial: TackTrial) => void, share: (p: number) => void): Outcome<null>;
}
