/** The practice bench: a learner who has it and nothing else, an exercise set, done and kept. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sql } from 'drizzle-orm';
import { closeDb, getDb } from '$store/database';
import { MOST } from '$core/practice/outcome';
import { personOf, type Client } from './client';

describe('the practice bench', () => {
	let planner: Client, learner: Client, welder: Client;
	let me: string;
	beforeAll(async () => {
		[planner, learner, welder] = [await personOf('planner'), await personOf('learner'), await personOf('welder')];
		const { rows } = await getDb().execute<{ id: string }>(
			sql`select id from people where roles = array['learner']::role[] order by created_at desc limit 1`
		);
		me = rows[0].id;
	});
	afterAll(closeDb);
	const body = { guess: { way: 1, value: 2.5 }, choices: { bar: true } };

	it('is all that a learner has: every other page and route is shut', async () => {
		for (const page of ['/practice', '/practice/butt']) expect((await learner.get(page)).status, page).toBe(200);
		for (const page of [
			'/jobs',
			'/library',
			'/logbook',
			'/coupons',
			'/trials',
			'/learned',
			'/calculators',
			'/bench',
			'/people',
			'/api/jobs',
			'/api/registers'
		])
			expect((await learner.get(page)).status, page).toBe(403);
	});
	it('a planner sets an exercise, which the learner’s page says; a learner sets none', async () => {
		expect((await learner.post('/api/practice/butt/set', { person: me })).status).toBe(403);
		expect((await planner.post('/api/practice/butt/set', { person: me })).status).toBe(201);
		// once more changes nothing
		expect((await planner.post('/api/practice/butt/set', { person: me })).status).toBe(201);
		expect((await planner.post('/api/practice/butt/set', { person: '00000000-0000-4000-8000-000000000000' })).status).toBe(404);
		expect(String((await learner.get('/practice')).body)).toMatch(/has set it for you/);
	});
	it('what cannot be is refused by name, and nothing is kept', async () => {
		const faults = async (over: object, exercise = 'butt') =>
			((await learner.post(`/api/practice/${exercise}`, { ...body, ...over })).body.faults ?? []).map((f: { field: string }) => f.field);
		expect(await faults({ guess: { way: 3, value: 1 } })).toEqual(['guess.way']);
		expect(await faults({ guess: { way: 1 } })).toEqual(['guess.value']);
		expect(await faults({ choices: { order: 'at-random' } })).toEqual(['choices.order']);
		expect(await faults({ choices: { order: 'mitre-face-first' } })).toEqual(['choices.order']);
		expect(await faults({ choices: { presetDeg: 40 } })).toEqual(['choices.presetDeg']);
		expect(await faults({ choices: { planished: 0.5 } })).toEqual(['choices.planished']);
		expect((await learner.post('/api/practice/juggling', body)).status).toBe(404);
		expect((await learner.get('/practice/juggling')).status).toBe(404);
		expect(String((await learner.get('/practice/butt')).body)).not.toMatch(/Your attempts/);
	});
	it('a guess and a plan are welded beside the ways, marked, kept, and never changed', async () => {
		const done = await learner.post('/api/practice/butt', body);
		expect(done.status).toBe(201);
		const { outcome, score, plans } = done.body;
		expect(outcome.ways).toHaveLength(3);
		expect(plans).toHaveLength(4);
		// the bar by the learner's own tool does as the bar of the way does
		expect(outcome.least).toBe(1);
		expect(outcome.marks).toMatchObject({ which: MOST.which });
		expect(score).toBeGreaterThanOrEqual(MOST.which);
		expect(score).toBeLessThanOrEqual(100);
		expect(String((await learner.get('/practice/butt')).body)).toMatch(/Your attempts/);
		expect(String((await welder.get('/practice/butt')).body)).not.toMatch(/Your attempts/);
		await expect(getDb().execute(sql`update practice_attempts set score = 100`)).rejects.toThrow();
	}, 240_000);
});
