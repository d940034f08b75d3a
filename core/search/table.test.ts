/** What the table does where a final shape is not found, or where it is stopped inside one. The shapes themselves are stood in for. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import type { QuickForecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import type { PlanDocument, Run } from '../document/schema';
import { DEFAULT_GOALS } from './cost';
import { adviseHolds } from './levers';
import { solvePresets } from './presets';
import { searchOrders } from './tableSearch';
import type { BestSoFar } from './table';

/** asked for each final shape, with its number from 0: what is found, or undefined for the true answer */
const stand = vi.hoisted(() => ({
	asked: [] as Run[][],
	answer: (_runs: Run[], _i: number): { values: number[]; words: string } | undefined => undefined
}));
vi.mock('../forecast/finalForecast', async (original) => {
	const own = await original<typeof import('../forecast/finalForecast')>();
	return {
		...own,
		finalValues: (quick: QuickForecast, factors: never, progress: (share: number) => void = () => {}) => {
			const { runs } = quick.analysis.plan;
			stand.asked.push(runs);
			const given = stand.answer(runs, stand.asked.length - 1);
			progress(0.5);
			return given ?? own.finalValues(quick, factors, progress);
		}
	};
});
beforeEach(() => {
	stand.asked = [];
	stand.answer = () => undefined;
});

const kernel = kernelFactory(WebAssembly);
function tray(): PlanDocument {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 200, widthMm: 120, depthMm: 60, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 30;
	plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, pattern: 'corners-and-middles' });
	plan.runs = orderPattern(plan, { pattern: 'back-step', runLengthMm: 70 });
	return plan;
}
const goals = { ...DEFAULT_GOALS, restarts: 0 };
const nominal = (plan: PlanDocument) => plan.features.map(() => 0);

describe('final shapes that are not found', () => {
	deeply(
		'a shape found for part of the load never leads, however good it looks, and its row says so',
		() => {
			const plan = tray();
			// every order but the plan's own and the one after it seems perfect, for half the load
			stand.answer = (_runs, i) =>
				i < 2
					? { values: plan.features.map(() => 2), words: '' }
					: { values: nominal(plan), words: 'The shape was found up to 50 % of the load and not beyond.' };
			const r = searchOrders(plan, goals, { kernel });
			const found = r.rows.map((row) => !row.note.includes('50 %'));
			expect(found).toEqual([...found].sort((a, b) => Number(b) - Number(a)));
			expect(found[0]).toBe(true);
			expect(found.filter((f) => !f).length).toBeGreaterThan(2);
			// all the others cost less by what was found of them: it is not their cost that put them last
			const [first] = r.rows;
			expect(r.rows.some((row) => row.note.includes('50 %') && row.cost < first.cost)).toBe(true);
			expect(r.byFinal).toBe(true);
		},
		240_000
	);
	it('where the plan’s own is not found the table goes by the quick method and no other shape is asked for', () => {
		const plan = tray();
		stand.answer = () => ({ values: nominal(plan), words: 'The shape was found up to 80 % of the load and not beyond.' });
		const r = searchOrders(plan, goals, { kernel, full: true });
		expect(r.byFinal).toBe(false);
		expect(stand.asked).toHaveLength(1);
		expect(r.matters).toContain('up to 80 % of the load and not beyond), so this table goes by the quick method');
		expect(r.rows.map((row) => row.kind)).toEqual(expect.arrayContaining(['now', 'school', 'search']));
		expect(r.rows.every((row) => row.cells.every((c) => c.full === undefined && Number.isFinite(c.value)))).toBe(true);
		// what is shown is not what the part of the load gave
		expect(r.rows.some((row) => row.cells.some((c) => c.value !== 0))).toBe(true);
	}, 240_000);
});

describe('where the plan itself leads by the final shape', () => {
	/** places of the plan's order that another fills otherwise */
	const stepsFrom = (plan: PlanDocument, runs: Run[]) =>
		runs.length === plan.runs.length ? runs.filter((r, i) => r.id !== plan.runs[i].id || r.fromMm !== plan.runs[i].fromMm).length : Infinity;
	it('orders one step from it are tried, and one that is better leads', () => {
		const plan = tray();
		stand.answer = (runs) => {
			const steps = stepsFrom(plan, runs);
			return { values: plan.features.map(() => (steps === 0 ? 1 : steps <= 2 ? 0.5 : 2)), words: '' };
		};
		const phases = new Set<string>();
		const r = searchOrders(plan, goals, { kernel, tell: (p) => phases.add(p.phase) });
		expect([...phases]).toContain('One step from “The plan as it stands”');
		expect(r.rows[0].kind).toBe('search');
		expect(stepsFrom(plan, r.rows[0].runs)).toBeGreaterThan(0);
		expect(stepsFrom(plan, r.rows[0].runs)).toBeLessThanOrEqual(2);
		expect(r.rows.filter((row) => row.kind === 'search')).toHaveLength(1);
	}, 180_000);
	deeply(
		'where none is, that is said and the plan leads',
		() => {
			const plan = tray();
			stand.answer = (runs) => ({ values: plan.features.map(() => (stepsFrom(plan, runs) === 0 ? 1 : 2)), words: '' });
			const r = searchOrders(plan, goals, { kernel });
			expect(r.rows[0].cost).toBe(r.rows.find((row) => row.kind === 'now')!.cost);
			expect(r.matters).toMatch(/comes out ahead of what the search found|found no better order than/);
		},
		180_000
	);
});

describe('advice where the final shape is not found', () => {
	it('says that nothing is borne out, and claims neither agreement nor gain by it', () => {
		// a box for what holds it, two sheets for what is set over: a box has no joint that turns by itself
		const asked = (plan: PlanDocument) => {
			stand.answer = () => ({ values: nominal(plan), words: 'The shape was found up to 60 % of the load and not beyond.' });
			for (const f of plan.features) f.tolerance = { upper: 0.1, lower: f.tolerance.lower === undefined ? undefined : -0.1, source: 'typed' };
			for (const j of plan.joints) j.response = { angularChangeRad: 0.12 };
			return plan;
		};
		const panel = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 100], lengthMm: 220 }).plan!;
		for (const words of [solvePresets(asked(panel), goals, { kernel, final: true }).words, adviseHolds(asked(tray()), goals, { kernel }).words]) {
			expect(words).toContain('bears out nothing here. The shape was found up to 60 %');
			expect(words).not.toMatch(/agrees|By the final shape/);
		}
	}, 180_000);
});

describe('stopped', () => {
	/** stops as soon as the phase of that name is told */
	const stoppedIn = (phase: RegExp) => {
		const phases: string[] = [];
		let isStopped = false;
		const tell = (p: BestSoFar) => {
			if (phases[phases.length - 1] !== p.phase) phases.push(p.phase);
			isStopped ||= phase.test(p.phase);
		};
		return { phases, r: searchOrders(tray(), goals, { kernel, tell, stop: () => isStopped }) };
	};
	it('inside the plan’s own final shape: the plan and where the search began, by the quick method, at once', () => {
		const { r, phases } = stoppedIn(/Final shape: The plan/);
		expect([r.stopped, r.byFinal]).toEqual([true, false]);
		expect(stand.asked).toHaveLength(1);
		expect(r.rows.map((row) => row.kind).sort()).toEqual(['now', 'search']);
		expect(r.matters).toContain('The search was stopped before');
		expect(phases).not.toContain('Searching on');
		expect(r.levers).toEqual([]);
	}, 180_000);
	it('inside a school’s: the plan and the best that was found are in the table, that school and what follows are not', () => {
		const { r } = stoppedIn(/Final shape: Straight/);
		expect([r.stopped, r.byFinal]).toEqual([true, true]);
		const kinds = r.rows.map((row) => row.kind);
		expect(kinds.filter((k) => k === 'now')).toHaveLength(1);
		expect(kinds.filter((k) => k === 'search')).toHaveLength(1);
		expect(r.rows.map((row) => row.id)).not.toContain('straight-through');
	}, 180_000);
	it('inside the shape of what it found: that one is finished, since it is what was asked for', () => {
		const { r } = stoppedIn(/Final shape: Found by the search/);
		expect(r.stopped).toBe(true);
		expect(r.rows.map((row) => row.kind).sort()).toEqual(['now', 'search']);
		expect(r.rows.every((row) => row.note === '')).toBe(true);
	}, 180_000);
	deeply(
		'answers the same, stopped at the same place twice',
		() => {
			const of = () => stoppedIn(/Final shape: Found by the search/).r.rows.map((row) => [row.id, row.cost, row.runs.map((x) => x.id)]);
			expect(of()).toEqual(of());
		},
		180_000
	);
});
