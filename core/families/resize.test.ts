/** New sizes of a family: what a planner set stays where it still fits, and what does not is named. */
import { describe, expect, it } from 'vitest';
import { pathLength } from '../geometry/polyline';
import type { PlanDocument } from '../document/schema';
import { checkPlan } from '../plan/check';
import { tackStart } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import { byHand, ruleOf, useTackRule } from '../schools/tackRule';
import { FAMILY_DEFAULTS } from '.';
import { newPlan } from './newPlan';
import { regenerate } from './resize';

const trough = (): PlanDocument => newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;
const resized = (plan: PlanDocument, change: object) => {
	const again = regenerate(plan, plan.family!.kind, { ...plan.family!.parameters, ...change });
	if (!again.plan) throw new Error(JSON.stringify(again.faults));
	return again as { plan: PlanDocument; notes: string[] };
};

describe('new sizes', () => {
	it('keep what was said of seams and sheets: lengths with gaps, leg, film, grain, heat number', () => {
		const plan = trough();
		Object.assign(plan.joints[0], { intermittent: true, weldSizeMm: 2.5 });
		Object.assign(plan.parts[0], { film: 'front', grain: 'x', heatNumber: 'H-77' });
		const { plan: next } = resized(plan, { lengthMm: Number(plan.family!.parameters.lengthMm) + 40 });
		expect(next.joints.find((j) => j.id === plan.joints[0].id)).toMatchObject({ intermittent: true, weldSizeMm: 2.5 });
		expect(next.parts.find((p) => p.id === plan.parts[0].id)).toMatchObject({ film: 'front', grain: 'x', heatNumber: 'H-77' });
	});
	it('a heat number is of one sheet: another thickness asks for it again, by name', () => {
		const plan = trough();
		plan.parts[0].heatNumber = 'H-77';
		const { plan: next, notes } = resized(plan, { thicknessMm: 2 });
		expect(next.parts[0].heatNumber).toBeUndefined();
		expect(notes.join(' ')).toMatch(new RegExp(`Heat numbers.*${plan.parts[0].name}`));
	});
	it('a hold-down on a part that keeps its shape stays; one whose part changed goes by name', () => {
		const plan = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'] }).plan!;
		const at = (part: PlanDocument['parts'][number]): [number, number] => [part.outline[0][0] + 12, part.outline[0][1] + 12];
		plan.holdDowns = plan.parts.map((p, k) => ({
			id: `s${k}`,
			name: `Support under ${p.name}`,
			kind: 'support' as const,
			life: { on: 'start', off: 'when-cold' },
			part: p.id,
			at: at(p),
			holds: 'normal' as const,
			stiffnessNPerMm: 5000
		}));
		// only the web gets higher
		const height = Object.keys(plan.family!.parameters).find((k) => /height/i.test(k))!;
		const { plan: next, notes } = resized(plan, { [height]: Number(plan.family!.parameters[height]) + 10 });
		const changed = plan.parts.filter((p) => JSON.stringify(p.outline) !== JSON.stringify(next.parts.find((n) => n.id === p.id)?.outline));
		expect(changed.length).toBeGreaterThan(0);
		expect(changed.length).toBeLessThan(plan.parts.length);
		expect(next.holdDowns).toHaveLength(plan.parts.length - changed.length);
		for (const p of changed) expect(notes.join(' ')).toContain(`Support under ${p.name}`);
	});
});

describe('the rule of a seam’s tacks', () => {
	it('is kept with the seam and used again when its length changes; other seams keep theirs', () => {
		const plan = trough();
		const joint = plan.joints[0].id;
		useTackRule(plan, { ...tackStart('long-tacks') }, [joint]);
		expect(plan.tacks.filter((t) => t.joint === joint).every((t) => t.lengthMm === 10)).toBe(true);
		const { plan: next } = resized(plan, {
			depthMm: Number(plan.family!.parameters.depthMm) + 40,
			widthMm: Number(plan.family!.parameters.widthMm) + 40
		});
		const length = pathLength(next.joints.find((j) => j.id === joint)!.a.path);
		const now = next.tacks.filter((t) => t.joint === joint).map((t) => t.stationMm);
		expect(ruleOf(next, joint).pattern).toBe('long-tacks');
		expect(next.tacks.filter((t) => t.joint === joint).every((t) => t.lengthMm === 10)).toBe(true);
		expect(Math.max(...now)).toBeGreaterThan(length - 10);
		for (const other of next.joints.slice(1)) expect(next.tacks.filter((t) => t.joint === other.id).some((t) => t.lengthMm === 5)).toBe(true);
	});
	it('what was set by hand stays at its place, and what lay beyond the new end is named', () => {
		const plan = trough();
		const joint = plan.joints.map((j) => j.id).find((id) => plan.tacks.some((t) => t.joint === id))!;
		const length = pathLength(plan.joints.find((j) => j.id === joint)!.a.path);
		expect(byHand(plan, joint)).toEqual([]);
		const near = { id: 'hand-1', joint, stationMm: 33.5, lengthMm: 7, stage: 1, fusionOnly: false };
		const far = { id: 'hand-2', joint, stationMm: length - 8, lengthMm: 7, stage: 1, fusionOnly: false };
		plan.tacks.push(near, far);
		expect(byHand(plan, joint).map((t) => t.id)).toEqual(['hand-1', 'hand-2']);
		const { plan: next, notes } = resized(plan, {
			depthMm: Number(plan.family!.parameters.depthMm) - 30,
			widthMm: Number(plan.family!.parameters.widthMm) - 60
		});
		const now = pathLength(next.joints.find((j) => j.id === joint)!.a.path);
		expect(now).toBeLessThan(length - 10);
		expect(next.tacks.filter((t) => t.joint === joint && t.stationMm === 33.5 && t.lengthMm === 7)).toHaveLength(1);
		expect(notes.join(' ')).toMatch(/1 tack set by hand on .* lay beyond its new end/);
	});
	it('a plan of before, that keeps none, is read by where its tacks are, and planned so again', () => {
		const plan = trough();
		plan.tacks = tackPattern(plan, tackStart('corners-and-middles'));
		const joint = plan.joints[0].id;
		expect(plan.joints[0].tackRule).toBeUndefined();
		expect(ruleOf(plan, joint).pattern).toBe('corners-and-middles');
		const { plan: next } = resized(plan, { depthMm: Number(plan.family!.parameters.depthMm) + 40 });
		for (const j of next.joints) expect(next.tacks.filter((t) => t.joint === j.id)).toHaveLength(3);
		plan.tacks[0].stationMm += 9;
		expect(ruleOf(plan, plan.tacks[0].joint).pattern).toBe('two-stage');
	});
	it('resized again and again, tacks set by hand stay the same ones, and the plan stays sound', () => {
		let plan = trough();
		const joint = plan.joints[0].id;
		plan.tacks.push({ id: 'hand', joint, stationMm: 33.5, lengthMm: 7, stage: 1, fusionOnly: false });
		for (let k = 1; k <= 12; k++) plan = resized(plan, { depthMm: 90 + k, widthMm: 180 + k }).plan;
		expect(plan.tacks.filter((t) => t.joint === joint && t.lengthMm === 7)).toHaveLength(1);
		expect(checkPlan(plan)).toEqual([]);
		expect(Math.max(...plan.tacks.map((t) => t.id.length))).toBeLessThan(40);
	});
	it('tacks that follow no rule at all are planned anew', () => {
		const plan = trough();
		const joint = plan.joints[0].id;
		plan.tacks = plan.tacks.filter((t) => t.joint !== joint);
		for (const stationMm of [17, 46, 83]) plan.tacks.push({ id: `own-${stationMm}`, joint, stationMm, lengthMm: 8, stage: 1, fusionOnly: false });
		const { plan: next } = resized(plan, {
			depthMm: Number(plan.family!.parameters.depthMm) + 40,
			widthMm: Number(plan.family!.parameters.widthMm) + 40
		});
		expect(next.tacks.filter((t) => t.joint === joint).every((t) => t.lengthMm === 5)).toBe(true);
	});
	it('a rule that does not apply changes nothing', () => {
		const plan = trough();
		const before = JSON.stringify(plan);
		expect(() => useTackRule(plan, { ...tackStart('stitch'), locateMm: 10 })).toThrow(RangeError);
		expect(JSON.stringify(plan)).toBe(before);
	});
});
