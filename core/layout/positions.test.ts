import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { flipsOf, groupByPosition, liesFor, positionsOf, UP_AXES, type Up } from './positions';
import type { Run } from '../document/schema';

/** Fewest flips of any choice of positions, by trying all (dynamic programming over positions). */
function fewest(runs: readonly { joint: string }[], positions: ReadonlyMap<string, readonly Up[]>): number {
	let cost = new Map(UP_AXES.map((u) => [u, 0]));
	for (const [i, r] of runs.entries()) {
		const may = positions.get(r.joint) ?? UP_AXES;
		const next = new Map<Up, number>();
		for (const u of may) next.set(u, Math.min(...[...cost].map(([v, c]) => c + (i > 0 && v !== u ? 1 : 0))));
		cost = next;
	}
	return runs.length ? Math.min(...cost.values()) : 0;
}
const joints = ['a', 'b', 'c', 'd', 'e'];
const maps = fc
	.tuple(...joints.map(() => fc.subarray([...UP_AXES], { minLength: 1 })))
	.map((lists) => new Map(joints.map((j, i) => [j, lists[i] as readonly Up[]])));
const orders = fc.array(fc.constantFrom(...joints), { minLength: 1, maxLength: 14 });
const runsOf = (order: readonly string[]) => order.map((joint, i) => ({ id: `r${i}`, joint, fromMm: 0, toMm: 10, pass: 1 }) as Run);

describe('how the piece lies', () => {
	it('each run lies where it may, with as few flips as any choice has', () =>
		fc.assert(
			fc.property(maps, orders, (positions, order) => {
				const runs = runsOf(order);
				const lies = liesFor(runs, positions);
				lies.forEach((u, i) => expect(positions.get(runs[i].joint)).toContain(u));
				expect(flipsOf(lies)).toBe(fewest(runs, positions));
			}),
			{ numRuns: 300 }
		));
	it('grouping keeps every run once, the locked in their places, and the order within one position; free of locks it never flips more', () =>
		fc.assert(
			fc.property(maps, orders, fc.integer({ min: -1, max: 13 }), (positions, order, lock) => {
				const runs = runsOf(order).map((r, i) => (i === lock ? { ...r, locked: true } : r));
				const out = groupByPosition(runs, positions);
				expect(out.map((r) => r.id).sort()).toEqual(runs.map((r) => r.id).sort());
				runs.forEach((r, i) => r.locked && expect(out[i].id).toBe(r.id));
				// runs of one seam are never passed by one another
				for (const j of joints) {
					const own = (list: readonly Run[]) => list.filter((r) => r.joint === j && !r.locked).map((r) => r.id);
					expect(own(out)).toEqual(own(runs));
				}
				if (lock < 0 || lock >= runs.length)
					expect(flipsOf(liesFor(out, positions))).toBeLessThanOrEqual(Math.max(flipsOf(liesFor(runs, positions)), 0));
			}),
			{ numRuns: 300 }
		));
	it('an order that grouping would flip more often is left as it is', () => {
		const positions = new Map<string, Up[]>([
			['a', ['left']],
			['b', ['top']],
			['c', ['right']],
			['d', ['left', 'front']],
			['e', ['top', 'front']]
		]);
		const runs = runsOf(['d', 'a', 'b', 'e', 'e', 'c']);
		expect(flipsOf(liesFor(runs, positions))).toBe(2);
		expect(groupByPosition(runs, positions)).toEqual(runs);
	});
	it('a trough: a corner may be welded with either of its sides up, the floor’s corner seams from below or from the side', () => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], body: 'five-plates' }).plan!;
		const positions = positionsOf(assemblyMesh(plan));
		expect(positions.size).toBe(plan.joints.length);
		for (const up of positions.values()) {
			expect(up.length).toBeGreaterThan(0);
			expect(new Set(up).size).toBe(up.length);
		}
		// opposite sides are never both good for one straight seam
		const opposite: [Up, Up][] = [
			['top', 'underside'],
			['left', 'right'],
			['front', 'back']
		];
		for (const [joint, up] of positions)
			if (up.length < UP_AXES.length) for (const [p, q] of opposite) expect(up.includes(p) && up.includes(q), joint).toBe(false);
	});
	it('a flat panel is welded from its weld side, and turned over when that is changed', () => {
		const plan = newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!;
		const of = (weldSide: 'front' | 'back') => {
			plan.joints[0].weldSide = weldSide;
			return positionsOf(assemblyMesh(plan)).get(plan.joints[0].id);
		};
		expect([of('front'), of('back')]).toEqual([['top'], ['underside']]);
	});
});
