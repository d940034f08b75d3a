/** Changes a planner may try before adopting them: each takes a plan and gives another, or says why it does not apply. */
import { blocksOf } from '../holds';
import { usualBar, usualClamps } from '../holds/usual';
import type { PlanDocument } from '../document/schema';
import { orderPattern } from '../schools/orderPattern';
import { Refusal } from '../refusal/refusal';

export interface WhatIf {
	id: 'bar' | 'less-heat' | 'half-runs' | 'clamp-until-cold';
	label: string;
	/** @throws RangeError in the planner's words where it does not apply */
	apply(plan: PlanDocument, joint: string): PlanDocument;
}

/** A clamp this near to where another would go stands for it, mm (own estimate). */
const NEAR = 40;

const free = (plan: PlanDocument, base: string) => {
	let n = 1;
	while (plan.holdDowns.some((h) => h.id === `${base}-${n}`)) n++;
	return `${base}-${n}`;
};
const jointOf = (plan: PlanDocument, id: string) => {
	const joint = plan.joints.find((j) => j.id === id);
	if (!joint) throw new Refusal('Choose a seam first');
	return joint;
};

export const WHAT_IFS: readonly WhatIf[] = [
	{
		id: 'bar',
		label: 'A copper bar behind this seam',
		apply(plan, id) {
			const joint = jointOf(plan, id);
			if (blocksOf(plan).some((h) => h.joint === id)) throw new Refusal(`“${joint.name}” has a bar already`);
			const bar = usualBar(joint, free(plan, 'bar'));
			return { ...plan, holdDowns: [...plan.holdDowns, bar] };
		}
	},
	{
		id: 'less-heat',
		label: 'Five sixths of the current',
		apply: (plan) => ({
			...plan,
			settings: plan.settings.map((s) => ({
				...s,
				ampsA: (s.ampsA * 5) / 6,
				backgroundA: s.backgroundA === undefined ? undefined : (s.backgroundA * 5) / 6
			}))
		})
	},
	{
		id: 'half-runs',
		label: 'Runs of half the length, each laid back',
		apply(plan) {
			if (!plan.runs.length) throw new Refusal('There are no runs to halve yet');
			const lengths = plan.runs.map((r) => Math.abs(r.toMm - r.fromMm)).sort((a, b) => a - b);
			const half = lengths[Math.floor(lengths.length / 2)] / 2;
			if (half < 10) throw new Refusal('The runs are 20 mm or shorter already');
			return { ...plan, runs: orderPattern(plan, { pattern: 'back-step', runLengthMm: half }) };
		}
	},
	{
		id: 'clamp-until-cold',
		label: 'Clamps along this seam until cold',
		apply(plan, id) {
			const joint = jointOf(plan, id);
			const holdDowns = [...plan.holdDowns];
			for (const clamp of usualClamps(joint, () => '')) {
				if (holdDowns.some((h) => h.kind === 'clamp' && h.joint === id && Math.abs(h.stationMm - clamp.stationMm) < NEAR)) continue;
				holdDowns.push({ ...clamp, id: free({ ...plan, holdDowns }, 'clamp') });
			}
			if (holdDowns.length === plan.holdDowns.length) throw new Refusal(`“${joint.name}” is clamped along already`);
			return { ...plan, holdDowns };
		}
	}
];
