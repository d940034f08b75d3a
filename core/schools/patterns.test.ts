import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { generate, newPlan } from '../families/newPlan';
import { regenerate } from '../compose/resize';
import { blankOf, bendDeduction } from '../families/blank';
import { pathLength } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { ORDER_PATTERNS } from './orders';
import { orderDoesNotApply, orderPattern } from './orderPattern';
import { splitSeam, spreadOrder } from './orders/laying';
import { DEFAULT_TACKS } from './tacks';
import { tackPattern } from './tackPattern';
import { readPlan } from '../reading/readPlan';
import { seamsInSpace } from '../layout/space';
import { distance } from '../geometry/vec';

const trough = (change: object = {}) => {
	const made = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};

describe('families', () => {
	it('whatever sizes they accept, they make a plan that is in order, covers every seam with runs and closes in space', () =>
		fc.assert(
			fc.property(
				fc.record({
					lengthMm: fc.integer({ min: 60, max: 1500 }),
					widthMm: fc.integer({ min: 60, max: 900 }),
					depthMm: fc.integer({ min: 20, max: 500 }),
					rimFlangeMm: fc.constantFrom(0, 15, 30),
					body: fc.constantFrom('u-body', 'cross-blank', 'five-plates')
				}),
				(p) => {
					const plan = trough(p);
					expect(readPlan(JSON.parse(JSON.stringify(plan))).faults).toEqual([]);
					for (const j of plan.joints) {
						const sum = plan.runs.filter((r) => r.joint === j.id).reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
						expect(sum).toBeCloseTo(pathLength(j.a.path), 1);
					}
					// both sides of a corner seam lie on one line in space
					const flip = { ...plan, joints: plan.joints.map((j) => ({ ...j, a: j.b, b: j.a })) };
					const [a, b] = [seamsInSpace(plan), seamsInSpace(flip)];
					a.forEach((s, i) => [0, 0.5, 1].forEach((f) => expect(distance(s.at(f * s.lengthMm), b[i].at(f * b[i].lengthMm))).toBeLessThan(1e-6)));
				}
			),
			{ numRuns: 40 }
		));
	it('bad sizes are named', () => {
		const bad = (change: object) => generate('open-trough', { ...FAMILY_DEFAULTS['open-trough'], ...change }).faults.map((f) => f.field);
		expect(bad({ lengthMm: 0 })).toContain('family.parameters.lengthMm');
		expect(bad({ widthMm: -5 })).toContain('family.parameters.widthMm');
		expect(bad({ depthMm: NaN })).toContain('family.parameters.depthMm');
		expect(bad({ depthMm: 20, thicknessMm: 12 })).toContain('family.parameters.thicknessMm');
		expect(bad({ material: 'unobtainium' })).toContain('family.parameters.material');
	});
	it('a change of size keeps what still fits and says what had to be planned anew', () => {
		const plan = trough();
		plan.joints[0].gapMm = 0.4;
		const bottom = plan.tacks.filter((t) => t.joint === 'bl').length;
		const r = regenerate(plan, 'open-trough', { ...plan.family!.parameters, depthMm: 150 });
		expect(r.plan).toBeDefined();
		if (!r.plan) return;
		expect(checkPlan(r.plan)).toEqual([]);
		expect(r.plan.joints[0].gapMm).toBe(0.4);
		expect(r.plan.tacks.filter((t) => t.joint === 'bl')).toHaveLength(bottom);
		expect(r.notes.join(' ')).toMatch(/4 seams/);
	});
	it('a 90° bend, K 0.42, radius 2 on 1.5 mm: deduction by hand; a body blank is its layout less its bends', () => {
		// 2 (2 + 0.75) tan 45° - (2 + 0.42 x 1.5) pi / 2
		expect(bendDeduction({ angleDeg: 90, insideRadiusMm: 2 }, 1.5)).toBeCloseTo(2 * 2.75 - (2.63 * Math.PI) / 2, 9);
		const plan = trough({ rimFlangeMm: 0 });
		const body = blankOf(plan.parts[0], plan);
		expect(body.heightMm).toBeCloseTo(301.5 + 2 * 180.75 - 2 * bendDeduction({ angleDeg: 90, insideRadiusMm: 2 }, 1.5), 6);
		// weighed density check: 7.9 g/cm3 x volume
		expect(body.weightKg).toBeCloseTo(body.widthMm * body.heightMm * 1.5 * 7.9e-6, 6);
	});
});

describe('tack patterns', () => {
	it('two stages: locating tacks no farther apart than asked, closing ones between; all that locate come first', () => {
		// with no runs yet there is nothing to keep clear of but the ends
		const plan = { ...trough(), runs: [] };
		const tacks = tackPattern(plan, DEFAULT_TACKS);
		expect(tacks.findLastIndex((t) => t.stage === 1)).toBeLessThan(tacks.findIndex((t) => t.stage === 2));
		for (const j of plan.joints) {
			const at = tacks
				.filter((t) => t.joint === j.id)
				.map((t) => t.stationMm)
				.sort((a, b) => a - b);
			for (let i = 1; i < at.length; i++) expect(at[i] - at[i - 1]).toBeLessThanOrEqual(DEFAULT_TACKS.closeMm + 1);
			const first = tacks
				.filter((t) => t.joint === j.id && t.stage === 1)
				.map((t) => t.stationMm)
				.sort((a, b) => a - b);
			for (let i = 1; i < first.length; i++) expect(first[i] - first[i - 1]).toBeLessThanOrEqual(DEFAULT_TACKS.locateMm + 1);
		}
	});
	it('corners and middles: three a seam', () => {
		const plan = trough();
		expect(tackPattern(plan, { ...DEFAULT_TACKS, pattern: 'corners-and-middles' })).toHaveLength(3 * plan.joints.length);
	});
	it('work goes from the true corner outwards', () => {
		const plan = trough();
		const seams = seamsInSpace(plan);
		const corner = seams.find((s) => s.joint.id === plan.fitUp.trueJoint)!.at(0);
		const first = tackPattern(plan, DEFAULT_TACKS)[0];
		expect(distance(seams.find((s) => s.joint.id === first.joint)!.at(first.stationMm), corner)).toBeLessThan(10);
	});
});

describe('weld orders', () => {
	it('every pattern lays every millimetre once, in runs of about the length asked', () =>
		fc.assert(
			fc.property(fc.constantFrom(...ORDER_PATTERNS), fc.integer({ min: 20, max: 300 }), (pattern, runLengthMm) => {
				const plan = trough();
				if (orderDoesNotApply(plan, { pattern, runLengthMm })) {
					expect(() => orderPattern(plan, { pattern, runLengthMm })).toThrow(RangeError);
					return;
				}
				plan.runs = orderPattern(plan, { pattern, runLengthMm });
				expect(checkPlan(plan)).toEqual([]);
				const total = plan.joints.reduce((s, j) => s + pathLength(j.a.path), 0);
				expect(plan.runs.reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0)).toBeCloseTo(total, 0);
			}),
			{ numRuns: 30 }
		));
	it('back-step: runs point back against their own progress', () => {
		const plan = trough();
		const runs = orderPattern(plan, { pattern: 'back-step', runLengthMm: 50 });
		for (const j of plan.joints) {
			const own = runs.filter((r) => r.joint === j.id);
			const progress = Math.sign(own[own.length - 1].toMm - own[0].toMm);
			for (const r of own) expect(Math.sign(r.toMm - r.fromMm)).toBe(-progress);
		}
	});
	it('skip round: never twice on one seam running while others wait', () => {
		const plan = trough();
		const runs = orderPattern(plan, { pattern: 'skip-round', runLengthMm: 50 });
		const left = new Map(plan.joints.map((j) => [j.id, runs.filter((r) => r.joint === j.id).length]));
		for (let i = 1; i < runs.length; i++) {
			left.set(runs[i - 1].joint, left.get(runs[i - 1].joint)! - 1);
			if ([...left].filter(([, n]) => n > 0).length > 1) expect(runs[i].joint).not.toBe(runs[i - 1].joint);
		}
	});
	it('splitting a seam', () => {
		expect(splitSeam(301.5, 50)).toHaveLength(6);
		expect(splitSeam(301.5, 50).at(-1)![1]).toBe(301.5);
		expect(spreadOrder(7).slice(0, 3)).toEqual([0, 6, 3]);
	});
});
