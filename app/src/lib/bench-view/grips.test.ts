/** What can be taken hold of on the piece, where it may go, and that moving it is taken by the plan's own checks. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { pathLength } from '$core/geometry/polyline';
import { planFaults } from '$core/reading/readPlan';
import { HOLD_CHOICES, newHolds } from '$lib/hold/kinds';
import { gripsOf, isPutByPointing, moveGrip, putAt, snapPlace, snapStation, type Pointed } from './grips';

const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
const [seam] = plan.joints;
const whole = pathLength(seam.a.path);
const copy = () => structuredClone(plan);

describe('what can be taken hold of', () => {
	it('every tack where tacks are edited, the bounds of the chosen run where runs are, nothing where nothing is', () => {
		expect(gripsOf(plan, 'tacks').map((g) => g.owner)).toEqual(plan.tacks.map((t) => t.id));
		expect(gripsOf(plan, 'runs')).toEqual([]);
		const run = plan.runs.find((r) => gripsOf(plan, 'runs', r.id).length === 2)!;
		expect(gripsOf(plan, 'runs', run.id).map((g) => g.on === 'seam' && g.atMm)).toEqual([run.fromMm, run.toMm].sort((a, b) => a - b));
		expect(gripsOf(plan, 'none')).toEqual([]);
	});
	it('a tack let go elsewhere is there, and a run’s bound takes the run that meets it along', () => {
		const draft = copy();
		const [tack] = gripsOf(plan, 'tacks');
		moveGrip(draft, tack, { on: 'seam', joint: seam.id, stationMm: 33 });
		expect(draft.tacks[0].stationMm).toBe(33);
		const ends = (r: (typeof plan.runs)[number]) => [r.fromMm, r.toMm];
		const run = plan.runs.find((r) => plan.runs.some((q) => q !== r && q.joint === r.joint && ends(q).includes(Math.min(...ends(r)))))!;
		const [low] = gripsOf(plan, 'runs', run.id);
		if (low.on !== 'seam') throw new Error('runs lie on seams');
		const to = (low.range[0] + low.range[1]) / 2;
		moveGrip(draft, low, { on: 'seam', joint: run.joint, stationMm: to });
		const moved = draft.runs.find((r) => r.id === run.id)!;
		expect(Math.min(moved.fromMm, moved.toMm)).toBeCloseTo(to, 9);
		const laid = (p: typeof plan) => p.runs.filter((r) => r.joint === run.joint).reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0);
		expect(laid(draft)).toBeCloseTo(laid(plan), 6);
	});
	it('a strongback has an end each, which stay on its part', () => {
		const draft = copy();
		draft.holdDowns = newHolds('strongback', { plan, part: plan.parts[0], unique: (w) => w });
		const [one, other] = gripsOf(draft, 'holds');
		expect([one.field, other.field]).toEqual(['path.0', 'path.1']);
		expect(one).toMatchObject({ on: 'part', stays: true });
		moveGrip(draft, other, { on: 'part', part: plan.parts[0].id, at: [7, 8] });
		expect(draft.holdDowns[0]).toMatchObject({ path: [one.on === 'part' ? one.at : [], [7, 8]] });
		expect(isPutByPointing('strongback')).toBe(false);
	});
	it('a stretch’s ends do not pass each other, and one on a part may change its part', () => {
		const draft = copy();
		const unique = (word: string) => `${word}-new`;
		draft.holdDowns = [
			...newHolds('bar', { plan, joint: seam, part: plan.parts[0], unique }),
			...newHolds('weight', { plan, part: plan.parts[0], unique })
		];
		const [from, to, on] = gripsOf(draft, 'holds');
		expect([from.field, to.field, on.field]).toEqual(['fromMm', 'toMm', 'at']);
		if (from.on !== 'seam' || to.on !== 'seam') throw new Error('a bar lies on its seam');
		expect(from.range[1]).toBeLessThan(to.atMm);
		expect(to.range[0]).toBeGreaterThan(from.atMm);
		moveGrip(draft, on, { on: 'part', part: plan.parts[1].id, at: [12, 34] });
		expect(draft.holdDowns[1]).toMatchObject({ part: plan.parts[1].id, at: [12, 34] });
	});
});

describe('putting by pointing', () => {
	it.each(HOLD_CHOICES.filter((c) => isPutByPointing(c.value === 'block' ? 'bar' : c.value)).map((c) => [c.value, c.on] as const))(
		'a %s lies where the pointer was, and the plan takes it',
		(choice, on) => {
			const part = plan.parts[0];
			const [made] = newHolds(choice, { plan, joint: seam, part, unique: (w) => `${w}-new` });
			const [x0, y0] = [0, 1].map((d) => part.outline.reduce((s, p) => s + p[d], 0) / part.outline.length);
			const to: Pointed = on === 'seam' ? { on, joint: seam.id, stationMm: 80 } : { on, part: part.id, at: [Math.round(x0), Math.round(y0)] };
			const put = putAt(made, plan, to);
			const draft = copy();
			draft.holdDowns = [put];
			expect(planFaults(draft)).toEqual([]);
			const grips = gripsOf(draft, 'holds');
			if (on === 'part') expect(grips[0]).toMatchObject({ at: to.on === 'part' ? to.at : [] });
			else {
				const at = grips.map((g) => (g.on === 'seam' ? g.atMm : NaN));
				expect(at.reduce((s, v) => s + v, 0) / at.length).toBeCloseTo(80, 9);
			}
		}
	);
	it('near a seam’s end it reaches no further than the seam', () => {
		const [bar] = newHolds('bar', { plan, joint: seam, part: plan.parts[0], unique: (w) => w });
		const put = putAt(bar, plan, { on: 'seam', joint: seam.id, stationMm: 10 });
		expect(put).toMatchObject({ fromMm: 0, toMm: 60 });
		expect((putAt(bar, plan, { on: 'seam', joint: seam.id, stationMm: whole - 10 }) as typeof bar & { toMm: number }).toMm).toBeLessThanOrEqual(
			whole
		);
	});
});

describe('where a pointer is taken to mean', () => {
	it('along a seam: whole millimetres, and a ten, an end or the middle where one is near', () => {
		expect(snapStation(123.4, 421.37, 1)).toBe(123);
		expect(snapStation(119.3, 421.37, 1)).toBe(120);
		expect(snapStation(210.2, 421.37, 1)).toBe(210);
		expect(snapStation(210.9, 421.37, 0.5)).toBe(210.6);
		expect(snapStation(421.2, 421.37, 1)).toBe(421.3);
		expect(snapStation(-3, 421.37, 1)).toBe(0);
	});
	it('on a part: whole millimetres, and a corner, the middle of an edge or of a hole where one is near', () => {
		const square = {
			outline: [
				[0, 0],
				[100, 0],
				[100, 60],
				[0, 60]
			] as [number, number][],
			holes: [
				[
					[40, 30],
					[50, 40],
					[60, 30],
					[50, 20]
				]
			] as [number, number][][]
		};
		expect(snapPlace(square, [20.3, 31.7], 4)).toEqual([20, 32]);
		expect(snapPlace(square, [98, 58], 4)).toEqual([100, 60]);
		expect(snapPlace(square, [52, 1], 4)).toEqual([50, 0]);
		expect(snapPlace(square, [51, 31], 4)).toEqual([50, 30]);
	});
});
