/** The two best held against each other by the deeper depths: kept, turned, or not known; and on a real piece, asked for and filled. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { DEFAULT_GOALS } from './cost';
import type { TableRow } from './table';
import { searchOrders } from './tableSearch';
import { deeperOrder, inWords } from './tableWords';

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
		const first = row('first', 0.2, 0.9, 1);
		expect(deeperOrder('hot', plan, first, row('next', 0.5, 0.5, 2), goals)).toBe('kept');
		expect(deeperOrder('full', plan, first, row('next', 0.5, 0.5, 2), goals)).toBe('turned');
		expect(deeperOrder('hot', plan, first, row('next', undefined, 0.5, 2), goals)).toBeUndefined();
		expect(deeperOrder('hot', plan, first, undefined, goals)).toBeUndefined();
	});
	it('is said where it is turned, and by which', () => {
		const say = (hot: number, full: number) => {
			const first = row('first', 0.4, 0.4, 1);
			return inWords('', [first, row('next', hot, full, 2)], first, plan, goals, '');
		};
		expect(say(0.5, 0.5)).toBe('');
		expect(say(0.1, 0.5)).toMatch(/“next” comes out ahead of “first” with each arc watched:/);
		expect(say(0.1, 0.1)).toMatch(/ahead of “first” by the full method and with each arc watched:/);
	});
	it('is asked of the two best alone', () => {
		const r = searchOrders(plan, goals, { kernel: kernelFactory(WebAssembly), full: true });
		r.rows.forEach((row, i) =>
			row.cells.forEach((c) => expect([Number.isFinite(c.hot), Number.isFinite(c.full)], row.name).toEqual(i < 2 ? [true, true] : [false, false]))
		);
		expect(['kept', 'turned']).toContain(r.byHot);
		expect(['kept', 'turned']).toContain(r.byFull);
	});
});
