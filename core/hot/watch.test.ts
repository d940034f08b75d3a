/** Seams of plans watched while they are welded, and how few tacks would do. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { Refusal } from '../refusal/refusal';
import { evenTacks, hotSeamOf } from './ofPlan';
import { gapLimitOf } from './gapLimit';
import { adviseTacks, saidOf, watchSeam, type TackTrial } from './watch';

const kernel = kernelFactory(WebAssembly);
const BAR = {
	id: 'b1',
	kind: 'bar',
	name: 'Strip',
	material: 'copper',
	fromMm: 0,
	toMm: 120,
	thicknessMm: 10,
	contact: 'tight',
	offsetMm: 0
};
const butt = () => newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'] }).plan!;

describe('a seam of a plan, as the moving-arc model takes it', () => {
	it('carries sheets, tacks, runs and the air over', () => {
		const plan = butt();
		const joint = plan.joints[0];
		const { seam, notes } = hotSeamOf(plan, joint.id);
		expect(seam.sheets).toHaveLength(1);
		expect(seam.tacks).toHaveLength(plan.tacks.filter((t) => t.joint === joint.id).length);
		expect(seam.runs.map((r) => [r.fromMm, r.toMm])).toEqual(plan.runs.filter((r) => r.joint === joint.id).map((r) => [r.fromMm, r.toMm]));
		expect(seam.runs[0].waitS).toBe(0);
		expect(notes.join(' ')).toMatch(/rest of the piece/);
	});
	it('takes two sheets where they are unlike', () => {
		const plan = butt();
		plan.parts[1].thicknessMm = plan.parts[0].thicknessMm + 0.5;
		expect(hotSeamOf(plan, plan.joints[0].id).seam.sheets).toHaveLength(2);
	});
	deeply('a bar as narrow as the groove under the seam touches nowhere: named, and watched as without it', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm: 120 }).plan!;
		const joint = plan.joints[0].id;
		const bar = (widthMm: number) => ({ ...plan, holdDowns: [{ ...BAR, joint, widthMm }] }) as unknown as PlanDocument;
		const said = (p: PlanDocument) => hotSeamOf(p, joint).notes.join(' ');
		expect(said(bar(6))).toMatch(/“Strip” touches nowhere/);
		expect(said(bar(40))).not.toMatch(/touches nowhere/);
		const pulls = [plan, bar(6), bar(40)].map((p) => watchSeam(p, joint, {}, { kernel, isFilmed: false }).forceKn);
		expect(pulls[1]).toBeCloseTo(pulls[0], 6);
		expect(pulls[2]).toBeLessThan(0.8 * pulls[0]);
	});
	it('back-steps, turns, tacks and heats as it is asked', () => {
		const plan = butt();
		const joint = plan.joints[0].id;
		const L = hotSeamOf(plan, joint).seam.lengthMm;
		const back = hotSeamOf(plan, joint, { runs: 4 }).seam;
		expect(back.runs.map((r) => [r.fromMm, r.toMm])).toEqual([1, 2, 3, 4].map((i) => [(L * i) / 4, (L * (i - 1)) / 4]));
		const turned = hotSeamOf(plan, joint, { runs: 'one', isTurned: true }).seam;
		expect([turned.runs[0].fromMm, turned.runs[0].toMm]).toEqual([L, 0]);
		expect(hotSeamOf(plan, joint, { heat: 1.25 }).seam.heat / back.heat).toBeCloseTo(1.25, 9);
		expect(hotSeamOf(plan, joint, { tacks: [1, 2] }).seam.tacks.map((t) => t.atMm)).toEqual([1, 2]);
	});
	it('its edges may part by a tenth of the sheet where it is fused, by the wire where filler is fed in (common practice, no source)', () => {
		const plan = butt();
		const [joint] = plan.joints;
		const limit = () => gapLimitOf(plan, joint.id, hotSeamOf(plan, joint.id).seam);
		const thin = plan.parts[0].thicknessMm;
		joint.filler = false;
		expect(limit()).toBeCloseTo(thin / 10, 9);
		joint.gapMm = 0.4;
		expect(limit()).toBeCloseTo(0.4 + thin / 10, 9);
		joint.filler = true;
		plan.settings.forEach((s) => (s.fillerMm = 1.2));
		expect(limit()).toBe(1.2);
		// a wire thinner than what fusing bridges takes nothing away
		plan.settings.forEach((s) => (s.fillerMm = 0.3));
		expect(limit()).toBeCloseTo(0.4 + thin / 10, 9);
	});
	it('refuses a seam on the face of a sheet, one without runs, and one that is not there', () => {
		const plan = newPlan('lap-panel', { ...FAMILY_DEFAULTS['lap-panel'] }).plan!;
		expect(() => hotSeamOf(plan, plan.joints[0].id)).toThrow(/face of a sheet/);
		const bare = butt();
		bare.runs = [];
		expect(() => hotSeamOf(bare, bare.joints[0].id)).toThrow(/No run/);
		expect(() => hotSeamOf(bare, 'nowhere')).toThrow(Refusal);
	});
	it('spreads tacks evenly, ends first', () => {
		expect(evenTacks(300, 0)).toEqual([3, 297]);
		const t = evenTacks(300, 75);
		expect(t).toHaveLength(5);
		expect(Math.max(...t.slice(1).map((v, i) => v - t[i]))).toBeLessThanOrEqual(75);
	});
});

describe('a short panel watched', () => {
	const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm: 120, widthsMm: [60, 60] }).plan!;
	const joint = plan.joints[0].id;
	it('says what opens ahead, which tacks are useless, and shows it from arc to cold', () => {
		const shares: number[] = [];
		const w = watchSeam(plan, joint, { tacks: [3], runs: 'one' }, { kernel, onShare: (p) => shares.push(p) });
		expect(w.isBalanced).toBe(true);
		expect(w.tacks[0].isUseless).toBe(true);
		expect(saidOf(w, 'mm').join(' ')).toMatch(/tack at 3 mm melts before holding anything/);
		expect(w.gapRange[1]).toBeGreaterThanOrEqual(w.gapRange[0]);
		expect(w.film.length).toBeGreaterThan(30);
		expect(w.film[w.film.length - 1].arcMm).toBeNull();
		expect(shares[shares.length - 1]).toBe(1);
		expect(shares.every((v, i) => i === 0 || v >= shares[i - 1] - 1e-9)).toBe(true);
		expect(JSON.stringify([saidOf(w, 'mm'), saidOf(w, 'in')])).not.toMatch(/NaN|undefined/);
	});
	it('the advisor goes from few tacks to more and stops where they are enough', () => {
		const trials: TackTrial[] = [];
		adviseTacks(plan, joint, (t) => trials.push(t), { kernel });
		expect(trials.length).toBeGreaterThan(0);
		expect(trials.slice(0, -1).every((t) => !t.isEnough)).toBe(true);
		expect(trials.every((t, i) => i === 0 || t.tacks.length > trials[i - 1].tacks.length)).toBe(true);
		// more tacks, less gap
		expect(trials[trials.length - 1].watched.gapMm).toBeLessThanOrEqual(trials[0].watched.gapMm + 1e-6);
	});
});
