/** The small things every page leans on: numbers in a person's units, answers and refusals, what a browser remembers, which stage waits for what. */
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FAMILY_DEFAULTS } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import type { AnyHoldDown } from '$core/document/schema';
import { DEFAULT_GOALS } from '$core/search/cost';
import { call } from './call';
import { atServer, keptInBrowser } from './desk/testing';
import { goalsBody, keepGoals, keptGoals } from './order/goals';
import { followLives } from '$core/sequence/lives';
import { STAGES, type StageFacts } from './ui/stages';
import { duration, length, quantity } from './units';
import { uuid } from './uuid';

afterEach(() => vi.unstubAllGlobals());

describe('numbers for people', () => {
	it('millimetres and inches; degrees stay degrees; what is not known is a dash and never NaN', () => {
		expect(quantity(25.4, 'mm', 'mm')).toBe('25.40 mm');
		expect(quantity(25.4, 'mm', 'in')).toBe('1.000 in');
		expect([quantity(1.234, '°', 'mm'), quantity(1.234, '°', 'in')]).toEqual(['1.23°', '1.23°']);
		for (const unknown of [undefined, NaN, Infinity, -Infinity]) {
			expect([quantity(unknown, 'mm', 'mm'), length(unknown, 'in')]).toEqual(['–', '–']);
		}
		expect(quantity(-0.004, 'mm', 'mm')).toMatch(/^-?0\.00 mm$/);
	});
	it.each([
		[0, '0 s'],
		[59.4, '59 s'],
		[59.6, '1 min 00 s'],
		[125, '2 min 05 s'],
		[3599.7, '1 h 00 min'],
		[7384, '2 h 03 min']
	])('a duration of %d s reads %s', (s, words) => expect(duration(s)).toBe(words));
});

describe('calls', () => {
	it('an answer is the answer; a refusal has its words, its faults and what is stored now', async () => {
		const server = atServer();
		server.answer(200, { job: 1 });
		expect(await call('GET', '/x')).toEqual({ ok: true, data: { job: 1 } });
		const fault = { field: 'name', value: '', allowed: 'a name' };
		server.answer(409, { message: 'Somebody was first.', faults: [fault], current: { version: 4 } });
		expect(await call('PUT', '/x', { a: 1 })).toEqual({
			ok: false,
			refusal: { status: 409, message: 'Somebody was first.', faults: [fault], current: { version: 4 } }
		});
		expect(server.calls[1]).toEqual({ method: 'PUT', path: '/x', body: { a: 1 } });
	});
	it('a server that cannot be reached, and one that answers no JSON, are said in words', async () => {
		const server = atServer();
		server.answer(0, {});
		const away = await call('POST', '/x', {});
		expect(away).toMatchObject({ ok: false, refusal: { status: 0, faults: [] } });
		expect(!away.ok && away.refusal.message).toMatch(/cannot be reached/);
		vi.stubGlobal('fetch', () => Promise.resolve(new Response('<h1>Bad gateway</h1>', { status: 502 })));
		expect(await call('GET', '/x')).toMatchObject({ ok: false, refusal: { status: 502, message: 'The server answered 502.', faults: [] } });
	});
});

describe('what a browser remembers of a search', () => {
	it('goals come back as they were set, by job; a job of its own begins with the usual ones', () => {
		keptInBrowser();
		keepGoals('one', { ...DEFAULT_GOALS, time: 0.7, features: { flat: 2 } });
		expect(keptGoals('one')).toEqual({ ...DEFAULT_GOALS, time: 0.7, features: { flat: 2 } });
		expect(keptGoals('two')).toEqual(DEFAULT_GOALS);
		// the usual ones are handed out afresh: a page may change what it got
		expect(keptGoals('two')).not.toBe(DEFAULT_GOALS);
	});
	it('a broken or forbidden store is no store', () => {
		keptInBrowser().set('sarta-goals-one', '{not json');
		expect(keptGoals('one')).toEqual(DEFAULT_GOALS);
		keptInBrowser(true);
		expect(() => keepGoals('one', DEFAULT_GOALS)).not.toThrow();
	});
	it('they go to the server as a list of weights', () => {
		const { weights, ...rest } = goalsBody({ ...DEFAULT_GOALS, features: { flat: 2, width: 0 } });
		expect(weights).toEqual([
			{ id: 'flat', weight: 2 },
			{ id: 'width', weight: 0 }
		]);
		expect(rest).not.toHaveProperty('features');
	});
});

describe('hold-downs that named a run', () => {
	const hold = (on: string, off: string) => ({ id: 'c', name: 'Clamp', kind: 'clamp', life: { on, off } }) as unknown as AnyHoldDown;
	const plan = newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!;
	it('keep what they named while it is there; go back to the whole weld-out when it is gone, and that is said', () => {
		const [run] = plan.runs;
		const holds = [hold(`before-run:${run.id}`, `after-run:${run.id}`), hold('start', 'after-run:gone'), hold('before-run:gone', 'when-cold')];
		const notes = followLives(holds, plan.runs);
		expect(holds.map((h) => [h.life.on, h.life.off])).toEqual([
			[`before-run:${run.id}`, `after-run:${run.id}`],
			['start', 'when-cold'],
			['start', 'when-cold']
		]);
		expect(notes).toHaveLength(2);
		expect(notes[0]).toMatch(/Clamp: its run is gone/);
	});
});

describe('stages', () => {
	const plan = newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!;
	const facts = (change: Partial<StageFacts> = {}): StageFacts => ({
		plan,
		issued: false,
		started: false,
		welded: false,
		measured: false,
		signed: false,
		...change
	});
	const waiting = (f: StageFacts) => STAGES.filter((s) => s.needs(f)).map((s) => s.slug);
	it('each waits for the one before it and says for what', () => {
		expect(waiting(facts())).toEqual(['weld-out', 'measure', 'learn', 'hand-over']);
		expect(waiting(facts({ issued: true, started: true }))).toEqual(['learn', 'hand-over']);
		expect(waiting(facts({ issued: true, started: true, welded: true, measured: true }))).toEqual([]);
		expect(waiting(facts({ plan: { ...plan, joints: [], tacks: [], runs: [] } }))).toEqual(
			expect.arrayContaining(['fit-up', 'hold', 'tack', 'weld', 'order', 'forecast'])
		);
		for (const s of STAGES) {
			const words = s.needs(facts({ plan: { ...plan, joints: [], tacks: [], runs: [] } }));
			if (words) expect(words).toMatch(/^(Needs|Better with) .+\.$/);
		}
	});
	it('what is done is ticked', () => {
		const done = (f: StageFacts) => STAGES.filter((s) => s.done(f)).map((s) => s.slug);
		expect(done(facts())).toEqual(expect.arrayContaining(['job', 'parts', 'tack', 'weld', 'order', 'forecast']));
		expect(done(facts())).not.toContain('hold');
		expect(done(facts({ welded: true, measured: true, signed: true }))).toEqual(expect.arrayContaining(['weld-out', 'measure', 'hand-over']));
	});
});

describe('names for what a tablet makes', () => {
	it('version 4, variant 1 (RFC 9562), and no two alike', () => {
		const list = Array.from({ length: 500 }, uuid);
		for (const id of list) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
		expect(new Set(list).size).toBe(500);
	});
});
