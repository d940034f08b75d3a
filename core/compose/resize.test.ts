/** New sizes of a family: what a planner set stays where it still fits, and what does not is named. */
import { describe, expect, it } from 'vitest';
import { pathLength } from '../geometry/polyline';
import type { PlanDocument } from '../document/schema';
import { checkPlan } from '../plan/check';
import { tackStart } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import { byHand, ruleOf, useTackRule } from '../schools/tackRule';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { takeOff } from '../plan/prune';
import { readPlan } from '../reading/readPlan';
import { brokenRule } from '../sequence/precedence';
import { addTo } from './add';
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

describe('a plan can always be changed', () => {
	const lidded = () => newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lid: true, baffles: 1 }).plan!;
	it('a lid taken away takes its seams, tacks, runs, clamps, feature and step; put back it comes on last again', () => {
		const plan = lidded();
		plan.holdDowns.push({
			id: 'c',
			name: 'Lid clamp',
			kind: 'clamp',
			joint: 'lid-front',
			stationMm: 50,
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: { on: 'start', off: 'when-cold' }
		});
		plan.holdDowns.push({
			id: 'b',
			name: 'Clamp inside',
			kind: 'clamp',
			joint: 'lf',
			stationMm: 50,
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: { on: 'start', off: 'before-step:lid' }
		});
		expect(checkPlan(plan)).toEqual([]);
		const { plan: open, notes } = resized(plan, { lid: false });
		expect(checkPlan(open)).toEqual([]);
		expect(JSON.stringify({ ...open, family: 0, notes: 0 })).not.toMatch(/"lid/);
		expect(open.fitUp.order).toBeUndefined();
		expect(open.holdDowns).toMatchObject([{ id: 'b', life: { off: 'when-cold' } }]);
		expect(notes.join(' ')).toMatch(/“Lid clamp”/);
		expect(notes.join(' ')).toMatch(/“Clamp inside” comes off when cold/);
		const { plan: shut } = resized(open, { lid: true });
		expect(checkPlan(shut)).toEqual([]);
		expect(shut.fitUp.order?.map((s) => s.id)).toEqual(['shell', 'lid']);
		expect(brokenRule(shut)).toBeUndefined();
		expect(shut.features.some((f) => f.id === 'lid-flat')).toBe(true);
	});
	it('a baffle put on by hand keeps the family, stretches with the width, and goes by name when it cannot stand', () => {
		const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;
		const W = Number(trough.family!.parameters.widthMm) + 1.5;
		const plan = addTo(trough, { kind: 'stiffener', part: 'body', from: [150, 0], to: [150, W], heightMm: 100, side: 'front' });
		expect(plan.family!.kind).toBe('open-trough');
		expect(plan.family!.additions).toMatchObject([
			{ id: 'stiffener-1', at: { acrossFrom: 'left', acrossMm: 150, upFrom: 'lower', upMm: 0 }, to: { upFrom: 'upper', upMm: 0 } }
		]);
		expect(checkPlan(plan)).toEqual([]);
		const { plan: wide } = resized(plan, { widthMm: 400, lengthMm: 500 });
		expect(checkPlan(wide)).toEqual([]);
		const baffle = wide.parts.find((p) => p.id === 'stiffener-1')!;
		// 400 inside and 1.5 of sheet, by hand
		expect(Math.max(...baffle.outline.map((p) => p[0]))).toBeCloseTo(401.5, 6);
		expect(wide.joints.filter((j) => j.id.startsWith('stiffener-1')).length).toBe(3);
		expect(wide.tacks.some((t) => t.joint.startsWith('stiffener-1'))).toBe(true);
		const { plan: flat, notes } = resized(plan, { lengthMm: 120 });
		expect(flat.parts.some((p) => p.id === 'stiffener-1')).toBe(false);
		expect(flat.family!.additions).toBeUndefined();
		expect(notes.join(' ')).toMatch(/“Stiffener 1” does not fit the new sizes and was left off: .* is not on “Body”/);
		// it reads back as it was written
		expect(readPlan(JSON.parse(JSON.stringify(wide))).faults).toEqual([]);
	});
	it('taken off again by hand: its seams go, the hole that was cut for a port is closed', () => {
		const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;
		const plan = addTo(trough, { kind: 'port', part: 'end-left', at: [150, 90], outsideMm: 60, lengthMm: 40, side: 'back' });
		expect(plan.parts.find((p) => p.id === 'end-left')!.holes).toHaveLength(1);
		const notes = takeOff(plan, ['port-1']);
		expect(plan.parts.find((p) => p.id === 'end-left')!.holes).toEqual([]);
		expect(plan.family!.additions ?? []).toEqual([]);
		expect(notes.join(' ')).toMatch(/One seam went with what it sat on/);
		expect(checkPlan(plan)).toEqual([]);
		// (minus nothing is nothing)
		const plain = (p: PlanDocument): unknown => JSON.parse(JSON.stringify({ ...p, family: 0 }));
		expect(plain(plan)).toEqual(plain(trough));
	});
	it('what is ticked later works as at creation: cross-break, patch stick; what the planner took out stays out', () => {
		const panel = newPlan('patched-panel', { ...FAMILY_DEFAULTS['patched-panel'], stick: false }).plan!;
		const { plan: stuck } = resized(panel, { stick: true });
		const made = newPlan('patched-panel', { ...FAMILY_DEFAULTS['patched-panel'], stick: true }).plan!;
		expect(stuck.holdDowns).toEqual(made.holdDowns);
		const trough = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] }).plan!;
		const { plan: creased } = resized(trough, { crossBreakMm: 6 });
		expect(creased.parts[0].crossBreaks).toHaveLength(1);
		trough.features = trough.features.filter((f) => f.id !== 'rim-twist');
		trough.fitUp.checks = trough.fitUp.checks.filter((c) => c.id !== 'touch');
		const { plan: again } = resized(trough, { lengthMm: 700 });
		expect(again.features.some((f) => f.id === 'rim-twist')).toBe(false);
		expect(again.fitUp.checks.some((c) => c.id === 'touch')).toBe(false);
	});
	it('a wall and a lid take a cross-break; a panel with a hole, and one that has one, do not', () => {
		const plan = lidded();
		const lid = addTo(plan, { kind: 'cross-break', part: 'lid', at: [300, 150], heightMm: 5, side: 'front' });
		const wall = addTo(lid, { kind: 'cross-break', part: 'body', at: [300, -90], heightMm: 4, side: 'back' });
		expect(checkPlan(wall)).toEqual([]);
		expect(wall.parts.find((p) => p.id === 'body')!.crossBreaks![0].heightMm).toBe(-4);
		expect(() => addTo(wall, { kind: 'cross-break', part: 'lid', at: [100, 100], heightMm: 5, side: 'front' })).toThrow(/has a cross-break already/);
		const { plan: wide } = resized(wall, { widthMm: 420 });
		expect(checkPlan(wide)).toEqual([]);
		expect(wide.parts.find((p) => p.id === 'lid')!.crossBreaks).toHaveLength(1);
	});
	it('said before it is made: a port across a seam or a bend, a plate across a seam', () => {
		const box = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], baffles: 1 }).plan!;
		const at =
			(p: [number, number], part = 'body') =>
			() =>
				addTo(box, { kind: 'port', part, at: p, outsideMm: 60, lengthMm: 40, side: 'back' });
		expect(at([300, 150])).toThrow(/across seam “Baffle 1 to floor”/);
		expect(at([150, 5])).toThrow(/across a bend of “Body”/);
		expect(at([150, 150])).not.toThrow();
		expect(() => addTo(box, { kind: 'bracket', part: 'body', from: [200, 100], to: [400, 100], heightMm: 30, side: 'back' })).toThrow(
			/would stand across seam “Baffle 1 to floor”/
		);
	});
});
