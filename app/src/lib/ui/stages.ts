/** The stages in working order. `needs` says plainly what a stage wants from the one before. */
import type { PlanDocument } from '$core/document/schema';

export interface StageFacts {
	plan: PlanDocument;
	issued: boolean;
	started: boolean;
	welded: boolean;
	measured: boolean;
	signed: boolean;
}
export interface Stage {
	slug: string;
	name: string;
	needs: (f: StageFacts) => string;
	done: (f: StageFacts) => boolean;
}

/** A page beside the stages: it fills several of them. */
export const PROPOSE = { slug: 'propose', name: 'Propose a plan' } as const;

const always = () => '';
export const STAGES: readonly Stage[] = [
	{ slug: 'job', name: 'Job', needs: always, done: () => true },
	{ slug: 'parts', name: 'Parts', needs: always, done: (f) => f.plan.parts.length > 0 },
	{
		slug: 'fit-up',
		name: 'Fit-up',
		needs: (f) => (f.plan.joints.length ? '' : 'Needs seams: make the parts first.'),
		done: (f) => f.plan.fitUp.trueJoint !== undefined
	},
	{
		slug: 'hold',
		name: 'Hold',
		needs: (f) => (f.plan.joints.length ? '' : 'Needs seams: make the parts first.'),
		done: (f) => f.plan.holdDowns.length > 0
	},
	{
		slug: 'tack',
		name: 'Tack',
		needs: (f) => (f.plan.joints.length ? '' : 'Needs seams: make the parts first.'),
		done: (f) => f.plan.tacks.length > 0
	},
	{
		slug: 'weld',
		name: 'Weld',
		needs: (f) => (f.plan.joints.length ? '' : 'Needs seams: make the parts first.'),
		done: (f) => f.plan.settings.length > 0
	},
	{
		slug: 'order',
		name: 'Order',
		needs: (f) => (f.plan.tacks.length ? '' : 'Better with tacks: plan them first.'),
		done: (f) => f.plan.runs.length > 0
	},
	{
		slug: 'forecast',
		name: 'Forecast',
		needs: (f) => (f.plan.runs.length ? '' : 'Needs runs: plan the order first.'),
		done: (f) => f.plan.runs.length > 0
	},
	{
		slug: 'weld-out',
		name: 'Weld-out',
		needs: (f) => (f.issued ? '' : 'Needs an issued plan: issue it from the Forecast stage.'),
		done: (f) => f.welded
	},
	{ slug: 'measure', name: 'Measure', needs: (f) => (f.started ? '' : 'Needs a piece started at the bench.'), done: (f) => f.measured },
	{ slug: 'learn', name: 'Learn', needs: (f) => (f.measured ? '' : 'Needs readings of a piece.'), done: () => false },
	{ slug: 'hand-over', name: 'Hand-over', needs: (f) => (f.welded ? '' : 'Needs a piece finished at the bench.'), done: (f) => f.signed }
];
