/** Background tasks against the running worker: done, found again, ended, taken up when a worker has died. */
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { closeQueue } from '$store/queue';
import { tasks } from '$store/schema';
import { beat, claimTask, MOST_ATTEMPTS, rescueTasks } from '$store/tasks';
import { Client, newJob, personOf } from './client';

let planner: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder] = [await personOf('planner'), await personOf('welder')];
});
afterAll(async () => {
	await closeQueue();
	await closeDb();
});

/** a coarse mesh and few runs: seconds instead of minutes */
async function smallJob() {
	const job = await newJob(planner, 'Task tray');
	const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
	const document = { ...plan.document, meshSizeMm: 40, runs: plan.document.runs.slice(0, 2) };
	const saved = (await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: document })).body;
	return { job, base: { revision: saved.revision, version: saved.version } };
}
async function until(id: string, states: string[], seconds: number) {
	for (let k = 0; k < 4 * seconds; k++) {
		const { task } = (await planner.get(`/api/tasks/${id}`)).body;
		if (states.includes(task.state)) return task;
		await new Promise((r) => setTimeout(r, 250));
	}
	throw new Error(`task ${id} is not ${states.join(' or ')} after ${seconds} s`);
}

describe('full forecast as a task', () => {
	it('is made, goes on by itself, is found again by its input, and its answer is read', async () => {
		const { job, base } = await smallJob();
		const made = await planner.post(`/api/jobs/${job}/tasks`, base);
		expect(made.status).toBe(201);
		const id = made.body.task.id;
		const done = await until(id, ['done', 'failed'], 55);
		expect(done.message).toBe('');
		expect(done.state).toBe('done');
		const again = await planner.post(`/api/jobs/${job}/tasks`, base);
		expect([again.status, again.body.task.id]).toEqual([200, id]);
		expect((await welder.get(`/api/jobs/${job}/tasks`)).body.task.id).toBe(id);
		const answer = (await welder.get(`/api/tasks/${id}/result`)).body;
		expect(answer.result.depth).toBe('full');
		expect(answer.steps).toHaveLength(answer.result.steps.length);
		// another version of the plan is refused until it is read anew
		const late = await planner.post(`/api/jobs/${job}/tasks`, { ...base, version: base.version + 7 });
		expect(late.status).toBe(409);
	});
	it('is ended on request, and asked for again it starts anew', async () => {
		const { job, base } = await smallJob();
		const { task } = (await planner.post(`/api/jobs/${job}/tasks`, base)).body;
		expect((await welder.post(`/api/tasks/${task.id}/cancel`)).status).toBe(403);
		await planner.post(`/api/tasks/${task.id}/cancel`);
		// a task that was quicker than the request stays done
		const end = await until(task.id, ['cancelled', 'done'], 30);
		const again = await planner.post(`/api/jobs/${job}/tasks`, base);
		if (end.state === 'cancelled') expect([again.status, again.body.task.id === task.id]).toEqual([201, false]);
		await planner.post(`/api/tasks/${again.body.task.id}/cancel`);
	});
	it('a task whose worker has died is taken up by another within 30 s and finished', async () => {
		const { job, base } = await smallJob();
		const db = getDb();
		// a worker that takes it before the running one can, and dies: no beat ever follows
		const { task } = (await planner.post(`/api/jobs/${job}/tasks`, base)).body;
		await db
			.update(tasks)
			.set({ state: 'running', worker: 'dead', attempts: 1, heartbeatAt: sql`now()` })
			.where(eq(tasks.id, task.id));
		expect(await beat(db, task.id, 'somebody else', 0.5)).toBe(false);
		const began = Date.now();
		let taken = 0;
		while (!taken && Date.now() - began < 40_000) {
			const [row] = await db.select().from(tasks).where(eq(tasks.id, task.id));
			if (row.worker !== 'dead' && row.worker !== null) taken = Date.now() - began;
			await new Promise((r) => setTimeout(r, 200));
		}
		expect(taken).toBeGreaterThan(0);
		expect(taken).toBeLessThan(30_000);
		expect((await until(task.id, ['done', 'failed'], 55)).state).toBe('done');
	}, 240_000);
	it('is taken by one worker only, and given up after too many have died on it', async () => {
		const { job } = await smallJob();
		const db = getDb();
		const [person] = (await db.execute(sql`select id from people limit 1`)).rows as { id: string }[];
		const [row] = await db
			.insert(tasks)
			.values({
				kind: 'full-forecast',
				jobId: job,
				inputHash: `test-${job}`,
				input: {} as never,
				createdBy: person.id,
				heartbeatAt: sql`now()` as never
			})
			.returning();
		// no queue entry for it: only these two reach for it
		const claims = await Promise.all(['one', 'two', 'three'].map((w) => claimTask(db, row.id, w)));
		expect(claims.filter(Boolean)).toHaveLength(1);
		await db
			.update(tasks)
			.set({ attempts: MOST_ATTEMPTS, heartbeatAt: sql`now() - interval '1 minute'` as never })
			.where(eq(tasks.id, row.id));
		await rescueTasks(db);
		const [end] = await db.select().from(tasks).where(eq(tasks.id, row.id));
		expect(end.state).toBe('failed');
		expect(end.message).toMatch(/workers died/);
	});
});
