/** A piece planned on from where it stands at the bench: asked, worked out by the worker, taken over for it alone, told in its record. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { benchPlan } from '$core/weldout/benchPlan';
import { planOf } from '$core/reading/readPlan';
import { closeDb } from '$store/database';
import { type Client, newJob, personOf, piecesOf, stepsOf, tap } from './client';

let planner: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder] = [await personOf('planner'), await personOf('welder')];
});
afterAll(closeDb);

/** A job whose first piece lies in half, by the plan's own order. */
async function halfWelded(name: string, replanBy?: 'welder') {
	const job = await newJob(planner, name);
	const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
	const document = { ...plan.document, meshSizeMm: 40, ...(replanBy && { replanBy }) };
	await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: 1, version: plan.version, plan: document });
	await planner.post(`/api/jobs/${job}/issue`, { revision: 1, version: plan.version + 1 });
	const [piece, other] = await piecesOf(job);
	const steps = await stepsOf(welder, job);
	const runs = steps.filter((s) => s.kind === 'run');
	const half = steps.indexOf(runs[Math.floor(runs.length / 2)]);
	const send = async (...events: object[]) => (await welder.post(`/api/pieces/${piece}/events`, { events })).body.refused as { message: string }[];
	expect(await send(tap('started'), ...steps.slice(0, half).map((s) => tap('step-done', s.id)))).toEqual([]);
	return { job, piece, other, steps, half, send };
}
async function worked(piece: string): Promise<string> {
	const r = await welder.post(`/api/pieces/${piece}/replan`);
	expect([200, 201]).toContain(r.status);
	const { id } = r.body.task;
	for (let i = 0; i < 400; i++) {
		const { task } = (await welder.get(`/api/tasks/${id}`)).body;
		if (task.state === 'done') return id;
		expect(['queued', 'running'], task.message).toContain(task.state);
		await new Promise((go) => setTimeout(go, 250));
	}
	throw new Error('not worked out in 100 s');
}
interface Found {
	laid: number;
	ways: { id: string; label: string; plan?: unknown; ends: { predicted: number }[] }[];
}

describe('a piece planned on from where it stands', () => {
	it(
		'ends as planned or better; a way is taken over by a planner, for this piece alone, and the bench and record go by it',
		{ timeout: 120_000 },
		async () => {
			const { job, piece, other, steps, half, send } = await halfWelded('Planned on');
			const id = await worked(piece);
			const found = (await welder.get(`/api/pieces/${piece}/replan/${id}`)).body.replan as Found;
			expect(found.laid).toBe(steps.slice(0, half).filter((s) => s.kind === 'run').length);
			expect([found.ways[0].id, found.ways.some((w) => w.plan !== undefined)]).toEqual(['as-planned', false]);
			const way = found.ways[1];
			expect(way).toBeDefined();
			const clientId = randomUUID();
			const take = (who: Client, what: object) => who.post(`/api/pieces/${piece}/replan/${id}`, what);
			expect((await take(welder, { way: way.id, clientId })).body.message).toMatch(/a planner takes over/);
			expect((await take(planner, { way: 'magic', clientId })).body.message).toMatch(/no such way on: it must be one of/);
			expect((await take(planner, { way: 'as-planned', clientId })).status).toBe(422);
			expect((await take(planner, { way: way.id, clientId: 'me' })).status).toBe(400);
			// not worked out for the other piece
			expect((await planner.post(`/api/pieces/${other}/replan/${id}`, { way: way.id, clientId })).body.message).toMatch(
				/not worked out for this piece/
			);
			expect((await take(planner, { way: way.id, clientId })).status).toBe(201);
			// pressed twice it is taken over once
			expect((await take(planner, { way: way.id, clientId })).status).toBe(201);
			const { events } = (await welder.get(`/api/pieces/${piece}/events`)).body;
			expect(events.filter((e: { kind: string }) => e.kind === 'replanned')).toMatchObject([{ note: way.label, person: 'Test planner' }]);
			// the job's plan is as it was, and another piece is begun by it
			const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
			expect([plan.revision, plan.state, plan.variant ?? 0]).toEqual([1, 'issued', 0]);
			const record = (await planner.get(`/api/jobs/${job}/record`)).body;
			const own = record.revisions.find((r: { variant?: number }) => r.variant === 1);
			expect(own).toMatchObject({ revision: 1, piece: record.pieces.find((p: { variant?: number }) => p.variant === 1).serial });
			const now = benchPlan(planOf(own.plan)).steps;
			const laid = new Set(
				steps
					.slice(0, half)
					.filter((s) => s.kind === 'run')
					.map((s) => s.id)
			);
			expect(
				now
					.filter((s) => s.kind === 'run')
					.slice(0, laid.size)
					.map((s) => s.id)
			).toEqual([...laid]);
			expect(String((await welder.get(`/jobs/${job}/weld-out?piece=${piece}`)).body)).toContain('of this piece alone');
			expect(String((await welder.get('/bench')).body)).toContain(`piece=${piece}`);
			// on paper too: the piece's own sheet, the job's as it was, none of a piece that is not begun
			const sheet = (query: string) => welder.get(`/api/jobs/${job}/run-sheet.pdf${query}`);
			expect((await sheet(`?piece=${piece}`)).status).toBe(200);
			expect((await sheet('')).status).toBe(200);
			expect((await sheet(`?piece=${other}`)).body.message).toMatch(/has not been started: print the sheets of its job/);
			expect((await welder.get(`/api/jobs/${randomUUID()}/run-sheet.pdf?piece=${piece}`)).status).toBe(404);
			// and can be welded to its end and read in elsewhere
			const done = new Set(events.map((e: { step?: string }) => e.step));
			expect(await send(...now.filter((s) => !done.has(s.id)).map((s) => tap('step-done', s.id)), tap('finished'))).toEqual([]);
			expect((await planner.post('/api/jobs/import?record', record)).status).toBe(201);
			expect((await welder.post(`/api/pieces/${piece}/replan`)).body.message).toMatch(/not at the bench/);
		}
	);
	it('the welder takes it over where the plan lets them; not after work has gone on', { timeout: 120_000 }, async () => {
		const { piece, steps, half, send } = await halfWelded('Planned on by the welder', 'welder');
		const id = await worked(piece);
		const found = (await welder.get(`/api/pieces/${piece}/replan/${id}`)).body.replan as Found;
		const way = found.ways[1].id;
		const run = steps[half];
		const laid = tap('step-done', run.id);
		await send(laid);
		const take = () => welder.post(`/api/pieces/${piece}/replan/${id}`, { way, clientId: randomUUID() });
		expect((await take()).body.message).toMatch(/Work has gone on since this was worked out: ask again/);
		await send(tap('undone', run.id, { about: laid.clientId }));
		expect((await take()).status).toBe(201);
		expect((await take()).body.message).toMatch(/planned on meanwhile|ask again/);
		// a line like this is not taken from a device
		expect(await send(tap('replanned'))).toMatchObject([{ message: expect.stringMatching(/planned on from its bench page/) }]);
	});
	it('tells where it ends without a worker; asked anew after more work, what was asked before is ended', { timeout: 120_000 }, async () => {
		const { piece, steps, half, send } = await halfWelded('Asked twice');
		const first = (await welder.get(`/api/pieces/${piece}/replan`)).body.replan as Found;
		expect(first.ways.map((w) => w.id)).toEqual(['as-planned']);
		const before = (await welder.post(`/api/pieces/${piece}/replan`)).body.task.id;
		await send(tap('step-done', steps[half].id));
		const now = await worked(piece);
		expect(now).not.toBe(before);
		const state = async (id: string) => (await welder.get(`/api/tasks/${id}`)).body.task.state;
		await expect.poll(() => state(before), { timeout: 30_000 }).toBe('cancelled');
		expect(await state(now)).toBe('done');
		const found = (await welder.get(`/api/pieces/${piece}/replan/${now}`)).body.replan as Found;
		// one run more lies; what the heat adds is not the greater part
		expect(found.laid).toBe(first.laid + 1);
		found.ways[0].ends.forEach((e, k) =>
			expect(Math.abs(e.predicted - first.ways[0].ends[k].predicted)).toBeLessThan(0.5 + 0.5 * Math.abs(e.predicted))
		);
	});
	it('a piece that is not begun has nothing to be planned on from', async () => {
		const job = await newJob(planner, 'Not begun');
		const [piece] = await piecesOf(job);
		expect((await welder.post(`/api/pieces/${piece}/replan`)).body.message).toMatch(/not at the bench/);
		expect((await welder.get(`/api/pieces/${piece}/replan`)).body.message).toMatch(/not at the bench/);
	});
});
