/** The two best held against each other by the deeper depths: kept, turned, or not known; and on a real piece, asked for and filled. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { hotFactors, HotMemory, type Said, type SaidStore } from '../hot/factors';
import { DEFAULT_GOALS, featureCost } from './cost';
import type { TableRow } from './table';
import { searchOrders } from './tableSearch';
import { fullOrder, howMuchOrderMatters, inWords } from './tableWords';

const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [60, 60], lengthMm: 100 }).plan!;
plan.meshSizeMm = 30;
const goals = { ...DEFAULT_GOALS, restarts: 0 };

describe('the best two by a deeper depth', () => {
	const row = (name: string, hot: number | undefined, full: number | undefined, cost: number): TableRow => ({
		id: name,
		name,
		kind: 'school',
		runs: plan.runs,
		cells: plan.features.map((f) => ({
			value: 0,
			difference: { predicted: 0, low: 0, high: 0 },
			full: full === undefined ? undefined : full * f.tolerance.upper,
			hot: hot === undefined ? undefined : hot * f.tolerance.upper
		})),
		cost,
		totalS: 0,
		waitS: 0,
		flips: 0,
		hottestC: 20,
		note: ''
	});
	it('is kept, turned, or not known where one was not worked out', () => {
		const first = row('first', 0.2, 0.4, 1);
		expect(fullOrder(plan, first, row('next', 0.5, 0.5, 2), goals)).toBe('kept');
		expect(fullOrder(plan, first, row('next', 0.5, 0.1, 2), goals)).toBe('turned');
		expect(fullOrder(plan, first, row('next', 0.5, undefined, 2), goals)).toBeUndefined();
		expect(fullOrder(plan, first, undefined, goals)).toBeUndefined();
	});
	it('is said where it is turned; and where the watched arcs put another order first than the final shape', () => {
		const say = (full: number, finalLeader?: TableRow) => {
			const first = { ...row('first', 0.4, 0.4, 1), hotCost: 0.5 };
			return inWords('', [first, { ...row('next', 0.5, full, 2), hotCost: 0.7 }], first, plan, goals, { notFound: '', finalLeader });
		};
		expect(say(0.5)).toBe('');
		expect(say(0.1)).toMatch(/“next” comes out ahead of “first” by the full method:/);
		expect(say(0.5, { ...row('once first', 0.6, undefined, 0.9), hotCost: 0.8 })).toMatch(
			/By the final shape alone “once first” would lead; with each arc watched it does not \(0.800 against 0.500\)/
		);
	});
	it('how much order matters goes by what the table stands by', () => {
		const rows = [row('a', 0.1, undefined, 1), row('b', 0.9, undefined, 2)];
		const bands = plan.features.map((f) => f.tolerance.upper);
		expect(howMuchOrderMatters(plan, rows, bands).share).toBe(0);
		expect(howMuchOrderMatters(plan, rows, bands, 'hot').share).toBeCloseTo(0.8, 9);
	});
	it('where there is too much seam for all, that is said', () => {
		const first = row('first', 0.4, 0.4, 1);
		const words = inWords('', [first, row('next', undefined, 0.5, 2)], first, plan, goals, { notFound: '', watchedRows: 2 });
		expect(words).toMatch(/the first 2 have theirs watched, and the table stands by the final shape/);
	});
	deeply('every row has its arcs watched and stands in the table by that; the full method is asked of the two best alone', () => {
		const r = searchOrders(plan, goals, { kernel: kernelFactory(WebAssembly), full: true });
		// with room for hardly any seam the best two are watched and the table stands by the final shape
		const few = searchOrders(plan, goals, { kernel: kernelFactory(WebAssembly), full: true, mostWatchedMm: 1 });
		expect(few.rows.map((row) => row.hotCost !== undefined)).toEqual(few.rows.map((_, i) => i < 2));
		expect([few.byHot, few.matters]).toEqual([undefined, expect.stringMatching(/the first 2 have theirs watched/)]);
		r.rows.forEach((row, i) => row.cells.forEach((c) => expect([Number.isFinite(c.hot), Number.isFinite(c.full)], row.name).toEqual([true, i < 2])));
		const costs = r.rows.map((row) => row.hotCost!);
		expect(costs).toEqual([...costs].sort((p, q) => p - q));
		// the same time, heat and flips, other features
		for (const row of r.rows) {
			const by = (k: 'value' | 'hot') =>
				featureCost(
					plan.features,
					row.cells.map((c) => c[k]!),
					goals
				);
			expect(row.hotCost! - row.cost).toBeCloseTo(by('hot') - by('value'), 9);
		}
		expect(['kept', 'turned']).toContain(r.byHot);
		expect(['kept', 'turned']).toContain(r.byFull);
	});
	it('a seam that has had its runs so before costs a look-up', () => {
		const memory = new HotMemory(kernelFactory(WebAssembly));
		const steps = (): number => {
			let seen = 0;
			hotFactors(plan, { memory, progress: () => seen++ });
			return seen;
		};
		const first = steps();
		expect(first).toBeGreaterThan(20);
		expect(steps()).toBeLessThan(3);
	});
	deeply('so it does where another job has had it: the same factors, out of the keeping of whoever asks', () => {
		const kept = new Map<string, Said>();
		const store: SaidStore = { get: (key) => kept.get(key), put: (key, said) => kept.set(key, JSON.parse(JSON.stringify(said)) as Said) };
		const asked = () => hotFactors(plan, { memory: new HotMemory(kernelFactory(WebAssembly), store) });
		const first = asked();
		expect(kept.size).toBe(1);
		const [key] = kept.keys();
		expect(asked()).toEqual(first);
		// and it is that keeping that is read
		kept.set(key, { ...kept.get(key)!, gapMm: 7 });
		expect(asked().seams[0].gapMm).toBe(7);
	});
});
