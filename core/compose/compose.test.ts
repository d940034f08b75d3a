import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { pathLength } from '../geometry/polyline';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import type { PlanDocument } from '../document/schema';
import { addTo } from './add';
import { findSeams } from './findSeams';

const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};
const apart = (plan: PlanDocument, joint: string) =>
	Math.max(
		...assemblyMesh(plan)
			.seams.find((s) => s.joint.id === joint)!
			.frames.map((f) => Math.hypot(...f.offset))
	);

describe('seams found where edges meet', () => {
	for (const [kind, change] of [
		['open-trough', {}],
		['open-trough', { body: 'five-plates' }],
		['open-trough', { body: 'cross-blank' }],
		['enclosure', {}],
		['butt-panel', { widthsMm: [100, 120, 140] }],
		['patched-panel', {}],
		['stiffened-plate', { stiffeners: 2 }],
		['cylinder', {}]
	] as [MadeFamily, object][])
		it(`${kind} ${JSON.stringify(change)}: the family’s own seams, by parts, kind and length`, () => {
			const plan = make(kind, change);
			const found = findSeams(plan.parts, 0.5);
			const key = (parts: string[], type: string) => `${[...parts].sort().join('/')} ${type}`;
			const total = (list: [string, number][]) => {
				const out = new Map<string, number>();
				for (const [k, l] of list) out.set(k, (out.get(k) ?? 0) + l);
				return out;
			};
			const wanted = total(plan.joints.map((j) => [key([j.a.part, j.b.part], j.type), pathLength(j.a.path)]));
			const got = total(found.map((f) => [key([f.a.part, f.b.part], f.type), f.lengthMm]));
			expect([...got.keys()].sort()).toEqual([...wanted.keys()].sort());
			for (const [k, l] of wanted) expect(Math.abs(got.get(k)! / l - 1), k).toBeLessThan(0.01);
			for (const f of found) expect(f.gapMm).toBeLessThan(0.35); // a ring of 48 sides lies 0.3 mm inside its circle at 150 mm
		});
	it('a gap wider than the tolerance is no seam; within it, it is one and its gap is told', () => {
		const plan = make('butt-panel');
		plan.parts[1].frame.origin[0] += 0.8;
		expect(findSeams(plan.parts, 0.5)).toEqual([]);
		expect(findSeams(plan.parts, 1)[0].gapMm).toBeCloseTo(0.8, 6);
	});
	it('parts that touch nowhere have none', () => {
		const plan = make('butt-panel');
		plan.parts[1].frame.origin[2] += 50;
		expect(findSeams(plan.parts, 1)).toEqual([]);
	});
});

describe('adding to a piece', () => {
	const trough = make('open-trough');
	it('a plate across a trough becomes a baffle: welded to floor and both walls, tacked and run', () => {
		const plan = addTo(trough, { kind: 'stiffener', part: 'body', from: [300, 0], to: [300, 301.5], heightMm: 120, side: 'front' });
		expect(checkPlan(plan)).toEqual([]);
		const made = plan.joints.slice(trough.joints.length);
		expect(made.map((j) => j.type)).toEqual(['tee', 'tee', 'tee']);
		for (const j of made) {
			expect(apart(plan, j.id)).toBeLessThan(0.02);
			expect(plan.tacks.some((t) => t.joint === j.id)).toBe(true);
			expect(plan.runs.some((r) => r.joint === j.id)).toBe(true);
		}
		// what was planned before is untouched
		expect(plan.runs.slice(0, trough.runs.length)).toEqual(trough.runs);
		expect(trough.parts).toHaveLength(3);
	});
	it('a port on a flat wall and one on a shell: hole, socket, foot on the wall', () => {
		for (const [base, part, at] of [
			[trough, 'end-left', [150, 90]],
			[make('cylinder'), 'course-1', [300, 200]]
		] as [PlanDocument, string, [number, number]][]) {
			const plan = addTo(base, { kind: 'port', part, at, outsideMm: 60, lengthMm: 40, side: part === 'course-1' ? 'front' : 'back' });
			expect(checkPlan(plan)).toEqual([]);
			expect(plan.parts.find((p) => p.id === part)!.holes).toHaveLength(1);
			for (const j of plan.joints.slice(base.joints.length)) expect(apart(plan, j.id)).toBeLessThan(0.02);
		}
	});
	it('a patch in a flat panel takes the weight of what it replaces', () => {
		const panel = make('butt-panel');
		const plan = addTo(panel, { kind: 'patch', part: 'blank-1', at: [100, 200], diameterMm: 80 });
		expect(checkPlan(plan)).toEqual([]);
		expect(plan.parts[0].holes[0]).toEqual(plan.parts[plan.parts.length - 1].outline);
	});
	it('what cannot go there is refused in words: off the part, over a hole, no bore, on a folded part, too wide for the tube', () => {
		expect(() => addTo(trough, { kind: 'stiffener', part: 'body', from: [-900, 0], to: [300, 0], heightMm: 50, side: 'front' })).toThrow(
			/not on “Body”/
		);
		expect(() => addTo(trough, { kind: 'stiffener', part: 'body', from: [100, 100], to: [102, 100], heightMm: 50, side: 'front' })).toThrow(
			/at least 5 mm long/
		);
		expect(() => addTo(trough, { kind: 'port', part: 'end-left', at: [5, 90], outsideMm: 60, lengthMm: 40, side: 'back' })).toThrow(
			/reach beyond “Left end”/
		);
		expect(() => addTo(trough, { kind: 'port', part: 'end-left', at: [150, 90], outsideMm: 3, lengthMm: 40, side: 'back' })).toThrow(
			/leaves no bore/
		);
		expect(() => addTo(trough, { kind: 'patch', part: 'body', at: [100, 100], diameterMm: 50 })).toThrow(/folded or rolled/);
		expect(() => addTo(make('manifold'), { kind: 'port', part: 'tube', at: [20, 60], outsideMm: 58, lengthMm: 40, side: 'front' })).toThrow(
			/too wide for a tube/
		);
		expect(() => addTo(trough, { kind: 'patch', part: 'nowhere', at: [0, 0], diameterMm: 50 })).toThrow(/not on this piece/);
	});
});
