/** What a learner may plan with in an exercise: the planner’s own tools, a choice each. */
import { FaultError } from '../document/faults';
import type { PlanDocument } from '../document/schema';
import type { TackOrder, TackPattern } from '../document/words';
import { usualAngle, usualBar, usualClamps } from '../holds/usual';
import { checkPlan } from '../plan/check';
import { isRefusal } from '../refusal/refusal';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_ORDER, type OrderPattern } from '../schools/orders';
import { tackPattern } from '../schools/tackPattern';
import { tackStart } from '../schools/tacks';

export const TOOLS = ['tacks', 'order', 'bar', 'clamps', 'strongback', 'preset', 'planish'] as const;
export type Tool = (typeof TOOLS)[number];

/** Whatever is not chosen stays as the piece is given. */
export interface Choices {
	tacks?: TackPattern;
	tackOrder?: TackOrder;
	order?: OrderPattern;
	runLengthMm?: number;
	bar?: boolean;
	clamps?: boolean;
	strongback?: boolean;
	/** on every seam that is welded, opened on its weld side where above 0 */
	presetDeg?: number;
	/** share of the pull hammered out of the seams, 0 to 1 */
	planished?: number;
}

const OF_TOOL: Record<Tool, readonly (keyof Choices)[]> = {
	tacks: ['tacks', 'tackOrder'],
	order: ['order', 'runLengthMm'],
	bar: ['bar'],
	clamps: ['clamps'],
	strongback: ['strongback'],
	preset: ['presetDeg'],
	planish: ['planished']
};

/** What a plan is welded by, and what is done to it afterwards. */
export interface Doing {
	plan: PlanDocument;
	/** share of the pull hammered out of its seams when it is cold */
	planished: number;
}

/** @throws FaultError naming the choice that the exercise or the piece does not allow */
export function planned(given: PlanDocument, tools: readonly Tool[], choices: Choices): Doing {
	const allowed = tools.flatMap((t) => OF_TOOL[t]);
	const chosen = (Object.keys(choices) as (keyof Choices)[]).filter((k) => choices[k] !== undefined);
	const faults = chosen
		.filter((k) => !allowed.includes(k))
		.map((k) => ({ field: `choices.${k}`, value: String(choices[k]), allowed: `this exercise is planned with ${allowed.join(', ')}` }));
	if (faults.length) throw new FaultError(faults);
	const made = CHANGES.reduce((plan, [field, change]) => attempt(plan, choices, field, change), given);
	const found = checkPlan(made);
	if (found.length) throw new FaultError(found);
	return { plan: made, planished: choices.planished ?? 0 };
}

type Change = (plan: PlanDocument, choices: Choices) => PlanDocument;
const welded = (plan: PlanDocument) => plan.joints.filter((j) => !j.stock && plan.runs.some((r) => r.joint === j.id));
const withHolds = (plan: PlanDocument, more: PlanDocument['holdDowns']): PlanDocument => ({ ...plan, holdDowns: [...plan.holdDowns, ...more] });

const CHANGES: readonly [keyof Choices, Change][] = [
	['presetDeg', (plan, { presetDeg }) => ({ ...plan, joints: plan.joints.map((j) => (j.stock ? j : { ...j, presetDeg: presetDeg! })) })],
	[
		'tacks',
		(plan, { tacks, tackOrder }) => {
			const rule = tackStart(tacks!);
			return { ...plan, tacks: tackPattern(plan, { ...rule, order: tackOrder ?? rule.order }) };
		}
	],
	[
		'order',
		(plan, { order, runLengthMm }) => ({
			...plan,
			runs: orderPattern(plan, { pattern: order!, runLengthMm: runLengthMm ?? DEFAULT_ORDER.runLengthMm })
		})
	],
	[
		'bar',
		(plan) =>
			withHolds(
				plan,
				welded(plan).map((j) => usualBar(j, `own-bar-${j.id}`))
			)
	],
	[
		'clamps',
		(plan) =>
			withHolds(
				plan,
				welded(plan).flatMap((j) => usualClamps(j, (i) => `own-clamp-${j.id}-${i + 1}`))
			)
	],
	[
		'strongback',
		(plan) =>
			withHolds(
				plan,
				plan.features.flatMap((f) => (f.kind === 'straightness' ? [usualAngle(f, `own-angle-${f.id}`)] : []))
			)
	]
];

function attempt(plan: PlanDocument, choices: Choices, field: keyof Choices, change: Change): PlanDocument {
	if (!choices[field]) return plan;
	try {
		return change(plan, choices);
	} catch (e) {
		if (!isRefusal(e)) throw e;
		throw new FaultError([{ field: `choices.${field}`, value: String(choices[field]), allowed: e.message }]);
	}
}
