/**
 * What a proposal decides, one thing at a time. Each decision changes a field of the plan that no other of its kind changes, so that any
 * of them may be taken and any left; they are put on in the order in which the work is done.
 */
import type { AnyHoldDown, HoldPoint, PlanDocument, Run, Tack, TackRule, WeldSettings } from '../document/schema';
import type { RootCare } from '../document/words';
import { coolBefore } from '../schools/orderEdit';
import { tacksInOrder } from '../sequence/precedence';

/** In working order. */
export const DECISION_KINDS = ['settings', 'root', 'hold', 'preset', 'tacks', 'order', 'cooling', 'hold-point'] as const;
export type DecisionKind = (typeof DECISION_KINDS)[number];

export interface DecisionChange {
	/** take the place of those with their ids */
	settings?: WeldSettings[];
	/** how the root is kept bright */
	rootCare?: RootCare;
	holdDowns?: AnyHoldDown[];
	/** over-angles by joint, degrees */
	presets?: Record<string, number>;
	tacks?: { rule: TackRule; tacks: Tack[] };
	runs?: Run[];
	/** every wait with a fan on the piece */
	fan?: true;
	holdPoints?: HoldPoint[];
}

export interface Decision {
	id: string;
	kind: DecisionKind;
	/** what is done */
	what: string;
	/** why, by what was worked out */
	why: string;
	/** the weld is not sound without it: never left out to save time */
	isNeeded?: true;
	/** no forecast knows anything of it: it costs and gains nothing there */
	isSilent?: true;
	change: DecisionChange;
}

/** The plan with these decisions, whatever the order in which they are given. */
export function decided(plan: PlanDocument, decisions: readonly Pick<Decision, 'kind' | 'change'>[]): PlanDocument {
	const inTurn = [...decisions].sort((p, q) => DECISION_KINDS.indexOf(p.kind) - DECISION_KINDS.indexOf(q.kind));
	return inTurn.reduce((at, d) => changed(at, d.change), plan);
}

function changed(plan: PlanDocument, { settings, rootCare, holdDowns, presets, tacks, runs, fan, holdPoints }: DecisionChange): PlanDocument {
	const next: PlanDocument = { ...plan };
	if (settings) next.settings = plan.settings.map((s) => settings.find((n) => n.id === s.id) ?? s);
	if (rootCare) next.root = { ...plan.root, care: rootCare };
	if (holdDowns) next.holdDowns = [...plan.holdDowns, ...holdDowns];
	if (presets) next.joints = next.joints.map((j) => (presets[j.id] === undefined ? j : { ...j, presetDeg: presets[j.id] }));
	if (tacks) {
		next.joints = next.joints.map((j) => (tacks.tacks.some((t) => t.joint === j.id) ? { ...j, tackRule: { ...tacks.rule } } : j));
		next.tacks = tacksInOrder(plan, tacks.tacks);
	}
	if (runs) next.runs = runs;
	if (fan) next.runs = coolBefore(next.runs, new Set(next.runs.map((r) => r.id)), 'fan');
	if (holdPoints) next.holdPoints = [...(plan.holdPoints ?? []), ...holdPoints];
	return next;
}
