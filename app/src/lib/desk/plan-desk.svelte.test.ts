import { beforeEach, describe, expect, it, vi } from 'vitest';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { priorFactors } from '$core/factors/factors';
import type { PlanDocument } from '$core/document/schema';
import { freshPage } from './testing';
import { PlanDesk } from './plan-desk.svelte';

// the forecast's worker is a browser's: here a test answers in its place, or nobody does
const asked = vi.hoisted(() => ({
	factors: [] as unknown[],
	plans: [] as unknown[],
	answers: [] as ((a: unknown) => void)[],
	firsts: [] as ((result: unknown) => void)[],
	ended: 0,
	drawn: 0
}));
vi.mock('$lib/quick/client', () => ({
	QuickClient: class {
		cancel = () => void asked.ended++;
		geometry = () => {
			asked.drawn++;
			return Promise.resolve({ ok: true, data: {} });
		};
		forecast = (plan: unknown, factors: unknown, _progress: unknown, first: (result: unknown) => void) => {
			asked.firsts.push(first);
			asked.plans.push(plan);
			asked.factors.push(factors);
			return new Promise((resolve) => asked.answers.push(resolve));
		};
		finalShape = () => Promise.resolve({ ok: false, message: 'no worker here' });
		compare = () => Promise.resolve(undefined);
		waiting = () => Promise.resolve(undefined);
	}
}));

const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 140, depthMm: 60 }).plan!;
const stored = () => ({ revision: 2, version: 5, state: 'draft' as const, document: structuredClone(plan) });
const desk = (mayEdit = true) => new PlanDesk('job-1', stored(), priorFactors(), mayEdit);
const rename = (name: string) => (d: PlanDocument) => void (d.joints[0].name = name);
const first = (d: PlanDesk) => d.doc.joints[0].name;
const KEY = 'sarta-plan-job-1';

const at = freshPage();
beforeEach(() => {
	Object.assign(asked, { factors: [], plans: [], answers: [], firsts: [], ended: 0, drawn: 0 });
});

describe('edits', () => {
	it('undo and redo name what they take back, and a new edit forgets what was undone', () => {
		const d = desk();
		const before = first(d);
		expect(d.change('first name', rename('Near side'))).toBe(true);
		expect(d.change('second name', rename('Far side'))).toBe(true);
		expect([first(d), d.undoLabel, d.redoLabel]).toEqual(['Far side', 'second name', undefined]);
		d.undo();
		expect([first(d), d.undoLabel, d.redoLabel]).toEqual(['Near side', 'first name', 'second name']);
		d.undo();
		expect([first(d), d.undoLabel]).toEqual([before, undefined]);
		d.undo();
		expect(first(d)).toBe(before);
		d.redo();
		expect(first(d)).toBe('Near side');
		d.change('third name', rename('Top'));
		expect(d.redoLabel).toBeUndefined();
		d.redo();
		expect(first(d)).toBe('Top');
	});
	it('an order that the assembly forbids is not made by hand; a new assembly takes the order with it, and undo brings both back', () => {
		const lidded = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 140, depthMm: 60, lid: true }).plan!;
		const d = new PlanDesk('job-1', { ...stored(), document: lidded }, priorFactors(), true);
		expect(d.change('order', (p) => void p.runs.reverse())).toBe(false);
		expect(d.faults).toMatchObject([{ field: 'runs', value: '', allowed: expect.stringMatching(/belongs before “Lid” comes on/) }]);
		expect(d.doc).toBe(lidded);
		// the lid first: its seams wait for the shell all the same
		expect(d.change('assembly', (p) => void p.fitUp.order!.reverse())).toBe(true);
		expect(d.notes).toEqual([]);
		expect(
			d.change('assembly', (p) => {
				const [lid, shell] = p.fitUp.order!;
				const left = shell.parts.filter((x) => x === 'end-left');
				p.fitUp.order = [{ ...shell, parts: shell.parts.filter((x) => x !== 'end-left') }, lid, { id: 'left', name: 'Left end', parts: left }];
			})
		).toBe(true);
		expect(d.notes).toEqual(['Tacks and runs follow the order of the assembly.']);
		expect(d.doc.runs[d.doc.runs.length - 1].joint).toMatch(/^(bl|lf|lb|lid-left)$/);
		d.undo();
		d.undo();
		expect(d.doc).toBe(lidded);
	});
	it('an edit written as an assignment is an edit', () => {
		const d = desk();
		const edit = (p: PlanDocument) => (p.joints[0].gapMm = 0.3) as unknown as void;
		expect(d.change('gap', edit)).toBe(true);
		expect(d.doc.joints[0].gapMm).toBe(0.3);
	});
	it('a change that makes the plan impossible is refused whole and says why', () => {
		const d = desk();
		const before = d.doc;
		expect(
			d.change('a tack off its seam', (p) => {
				p.joints[0].name = 'also this';
				p.tacks[0].stationMm = 1e5;
			})
		).toBe(false);
		expect(d.doc).toBe(before);
		expect(d.undoLabel).toBeUndefined();
		expect(d.faults[0].field).toMatch(/^tacks\[0\]/);
		expect(d.saving).toBe('saved');
		// the next good change clears the words
		d.change('a name', rename('Rim'));
		expect(d.faults).toEqual([]);
	});
	it('a change that changes nothing leaves no step to undo and saves nothing', async () => {
		const d = desk();
		expect(d.change('nothing', () => {})).toBe(true);
		expect(d.undoLabel).toBeUndefined();
		await vi.advanceTimersByTimeAsync(5000);
		expect(at.server.calls).toEqual([]);
	});
	it('who may not edit changes nothing', () => {
		const d = desk(false);
		expect(d.change('a name', rename('Rim'))).toBe(false);
		expect(first(d)).toBe(plan.joints[0].name);
	});
});

describe('saving', () => {
	it('a burst of edits is one save of the last state, and the browser lets go of its copy then', async () => {
		const d = desk();
		for (const name of ['A', 'B', 'C']) d.change(name, rename(name));
		expect([d.saving, at.browser.has(KEY)]).toEqual(['waiting', true]);
		at.server.answer(200, { revision: 2, version: 6, state: 'draft' });
		await vi.advanceTimersByTimeAsync(1000);
		expect(at.server.calls).toHaveLength(1);
		expect(at.server.calls[0]).toMatchObject({ method: 'PUT', path: '/api/jobs/job-1/plan', body: { revision: 2, version: 5 } });
		expect((at.server.calls[0].body as { plan: PlanDocument }).plan.joints[0].name).toBe('C');
		expect([d.saving, d.version, at.browser.has(KEY)]).toEqual(['saved', 6, false]);
	});
	it('an edit made while the save is under way is saved after it, on the new version', async () => {
		const d = desk();
		d.change('A', rename('A'));
		const late = at.server.hold();
		await vi.advanceTimersByTimeAsync(1000);
		expect(d.saving).toBe('saving');
		d.change('B', rename('B'));
		late(200, { revision: 2, version: 6, state: 'draft' });
		at.server.answer(200, { revision: 2, version: 7, state: 'draft' });
		await vi.advanceTimersByTimeAsync(2000);
		expect(at.server.calls.map((c) => (c.body as { version: number }).version)).toEqual([5, 6]);
		expect([d.saving, d.version]).toEqual(['saved', 7]);
	});
	it.each([0, 500, 503])('where the server cannot take it (%d) the plan stays in the browser and is sent again', async (status) => {
		const d = desk();
		d.change('A', rename('A'));
		at.server.answer(status, { message: 'restarting' });
		await vi.advanceTimersByTimeAsync(1000);
		expect([d.saving, at.browser.has(KEY)]).toEqual(['waiting', true]);
		expect(d.refusal?.message).toBeTruthy();
		at.server.answer(200, { revision: 2, version: 6, state: 'draft' });
		await vi.advanceTimersByTimeAsync(6000);
		expect([d.saving, d.refusal, at.browser.has(KEY)]).toEqual(['saved', undefined, false]);
	});
	it('a refusal for a reason is shown and not sent again by itself', async () => {
		const d = desk();
		d.change('A', rename('A'));
		at.server.answer(422, { message: 'No.', faults: [{ field: 'joints[0].name', value: 'A', allowed: 'another' }] });
		await vi.advanceTimersByTimeAsync(20_000);
		expect(at.server.calls).toHaveLength(1);
		expect([d.saving, d.refusal?.faults[0].field]).toEqual(['refused', 'joints[0].name']);
	});
	it('leaving the page sends what is still waiting', async () => {
		const d = desk();
		d.change('A', rename('A'));
		at.server.answer(200, { revision: 2, version: 6, state: 'draft' });
		d.end();
		await vi.advanceTimersByTimeAsync(0);
		expect(at.server.calls).toHaveLength(1);
	});
});

describe('factors adopted while the plan is open', () => {
	it('every forecast on the old ones goes, the plan is forecast with the new, and no edit is lost', async () => {
		const d = desk();
		d.change('A', rename('A'));
		d.deep = { doc: d.doc } as NonNullable<typeof d.deep>;
		d.full = { doc: d.doc } as NonNullable<typeof d.full>;
		const learned = { ...priorFactors(), readings: 2, pieces: 1 };
		d.useFactors(learned);
		await vi.advanceTimersByTimeAsync(10);
		expect([d.deep, d.full, first(d), d.undoLabel]).toEqual([undefined, undefined, 'A', 'A']);
		expect(asked.factors).toEqual([learned]);
		d.end();
	});
	it('the same factors read again change nothing', async () => {
		const d = desk();
		d.deep = { doc: d.doc } as NonNullable<typeof d.deep>;
		d.useFactors(priorFactors());
		await vi.advanceTimersByTimeAsync(10);
		expect(d.deep).toBeDefined();
		expect(asked.factors).toEqual([]);
	});
});

describe('the forecast follows the edits', () => {
	const turn = (ms = 50) => vi.advanceTimersByTimeAsync(ms);
	const answer = (i: number) => asked.answers[i]({ ok: true, data: { result: `answer ${i}`, shapes: {} } });
	it('edits made while one is worked out are asked about once, as the plan stands when it ends', async () => {
		const d = desk();
		d.begin();
		await turn();
		expect(asked.plans).toHaveLength(1);
		for (const name of ['A', 'B', 'C']) {
			d.change(name, rename(name));
			await turn();
		}
		expect([asked.plans.length, d.stale]).toEqual([1, true]);
		answer(0);
		await turn();
		// the older answer is shown meanwhile, and is known to be older
		expect([d.result, d.stale, asked.plans.length]).toEqual(['answer 0', true, 2]);
		expect(asked.plans[1]).toBe(d.doc);
		answer(1);
		await turn();
		expect([d.result, d.stale, d.forecasting, asked.plans.length]).toEqual(['answer 1', false, false, 2]);
		expect([asked.drawn, asked.ended]).toEqual([1, 0]);
		d.end();
	});
	it('once the figures are here the next edit is asked about at once; the older question’s shapes are not waited for', async () => {
		const d = desk();
		d.begin();
		await turn();
		d.change('A', rename('A'));
		await turn();
		asked.firsts[0]('figures 0');
		expect([d.result, d.stale, asked.plans.length]).toEqual(['figures 0', true, 2]);
		asked.answers[0](undefined); // superseded
		asked.firsts[1]('figures 1');
		await turn();
		expect([d.result, d.stale, d.forecasting]).toEqual(['figures 1', false, true]);
		answer(1);
		await turn();
		expect([d.result, d.stale, d.forecasting, asked.plans.length]).toEqual(['answer 1', false, false, 2]);
		d.end();
	});
	it('a new shape ends the forecast of the old one and is drawn anew', async () => {
		const d = desk();
		d.begin();
		await turn();
		d.change('thicker', (p) => void (p.parts[0].thicknessMm = 2));
		await turn();
		expect([asked.ended, asked.drawn, asked.plans.length]).toEqual([1, 2, 2]);
		answer(1);
		await turn();
		expect([d.result, d.stale]).toEqual(['answer 1', false]);
		d.end();
	});
	it('a tack moved is drawn anew, for shapes are by the nodes of their mesh; the figures stay till newer ones come', async () => {
		const d = desk();
		d.begin();
		await turn();
		asked.answers[0]({ ok: true, data: { result: 'figures 0', shapes: 'shapes 0' } });
		await turn();
		expect([d.result, d.shapes]).toEqual(['figures 0', 'shapes 0']);
		d.change('a tack moved', (p) => void (p.tacks[1].stationMm += 3));
		await turn();
		expect([asked.ended, asked.drawn, asked.plans.length]).toEqual([0, 2, 2]);
		expect([d.result, d.stale, d.shapes]).toEqual(['figures 0', true, undefined]);
		d.end();
	});
	it('stopped, it says so and asks again at the next edit, without drawing what is drawn', async () => {
		const d = desk();
		d.begin();
		await turn();
		d.cancelForecast();
		expect([d.forecasting, d.stale]).toEqual([false, true]);
		expect(d.forecastMessage).toMatch(/Stopped/);
		d.change('A', rename('A'));
		await turn();
		answer(1);
		await turn();
		expect([d.result, d.stale, d.forecastMessage, asked.drawn]).toEqual(['answer 1', false, '', 1]);
		d.end();
	});
	it('a plan that cannot be worked out says so and stays marked as out of date; the next edit is asked about', async () => {
		const d = desk();
		d.begin();
		await turn();
		asked.answers[0]({ ok: false, message: 'Nothing holds part 3.' });
		await turn();
		expect([d.forecastMessage, d.stale, d.forecasting]).toEqual(['Nothing holds part 3.', true, false]);
		d.change('A', rename('A'));
		await turn();
		expect(asked.plans).toHaveLength(2);
		d.end();
	});
});

describe('two people on one plan', () => {
	const theirs = () => {
		const document = structuredClone(plan);
		document.joints[0].name = 'Theirs';
		return { revision: 2, version: 9, state: 'draft' as const, document };
	};
	async function conflict() {
		const d = desk();
		d.change('mine', rename('Mine'));
		at.server.answer(409, { message: 'Somebody was first.', current: theirs() });
		await vi.advanceTimersByTimeAsync(1000);
		expect([d.saving, d.theirs?.version, first(d)]).toEqual(['refused', 9, 'Mine']);
		return d;
	}
	it('the second is told and nothing is sent until they choose', async () => {
		const d = await conflict();
		d.change('more of mine', rename('Mine again'));
		await vi.advanceTimersByTimeAsync(20_000);
		expect(at.server.calls).toHaveLength(1);
		expect(at.browser.has(KEY)).toBe(true);
	});
	it('mine on top: saved on their version, theirs one undo away', async () => {
		const d = await conflict();
		at.server.answer(200, { revision: 2, version: 10, state: 'draft' });
		d.resolve('mine');
		await vi.advanceTimersByTimeAsync(1000);
		expect(at.server.calls[1].body).toMatchObject({ version: 9 });
		expect([d.saving, d.version, first(d)]).toEqual(['saved', 10, 'Mine']);
		d.undo();
		expect(first(d)).toBe('Theirs');
	});
	it('theirs instead: mine one undo away', async () => {
		const d = await conflict();
		d.resolve('theirs');
		expect([d.saving, d.version, first(d), at.browser.has(KEY)]).toEqual(['saved', 9, 'Theirs', false]);
		d.undo();
		expect(first(d)).toBe('Mine');
	});
});

describe('after a crash', () => {
	const kept = (version: number, name: string) => {
		const document = structuredClone(plan);
		document.joints[0].name = name;
		at.browser.set(KEY, JSON.stringify({ revision: 2, version, document }));
	};
	it('what had not reached the server is put back, and undo drops it', () => {
		kept(5, 'Unsent');
		const d = desk();
		d.begin();
		expect(first(d)).toBe('Unsent');
		expect(d.notes[0]).toMatch(/put back/);
		d.undo();
		expect(first(d)).toBe(plan.joints[0].name);
		d.end();
	});
	it('where somebody has stored another since, both are kept and the choice is asked for', () => {
		kept(4, 'Unsent');
		const d = desk();
		d.begin();
		expect([first(d), d.theirs?.version, d.saving]).toEqual(['Unsent', 5, 'refused']);
		d.end();
	});
	it.each(['not JSON', JSON.stringify({ revision: 2, version: 5, document: { parts: 'none' } })])(
		'a copy that is no plan is forgotten: %s',
		(text) => {
			at.browser.set(KEY, text);
			const d = desk();
			d.begin();
			expect(first(d)).toBe(plan.joints[0].name);
			expect(at.browser.has(KEY)).toBe(false);
			d.end();
		}
	);
	it('a copy that is the stored plan is forgotten quietly', () => {
		kept(5, plan.joints[0].name);
		const d = desk();
		d.begin();
		expect([d.notes, at.browser.has(KEY), d.undoLabel]).toEqual([[], false, undefined]);
		d.end();
	});
});
