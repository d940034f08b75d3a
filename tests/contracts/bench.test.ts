/** What other devices see of a bench: the notice of a tap, and the board of all pieces. Against the running server and real PostgreSQL. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { BASE, type Client, newJob, personOf, piecesOf, startedPiece, stepsOf, tap } from './client';

let planner: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder] = [await personOf('planner'), await personOf('welder')];
});
afterAll(closeDb);

/** Follows a stream until a line says so, or s have passed. */
async function hears(query: string, id: string, after: () => Promise<unknown>, seconds: number): Promise<boolean> {
	const end = new AbortController();
	const r = await fetch(`${BASE}/api/bench-stream${query}`, { headers: welder.session(), signal: end.signal });
	expect(r.headers.get('content-type')).toBe('text/event-stream');
	const reader = r.body!.getReader();
	let text = '';
	const timer = setTimeout(() => end.abort(), 1000 * seconds + 3000);
	try {
		// the server's own line to the database is up when it says its first empty notice
		while (!text.includes('data:') && text.length < 20) text += new TextDecoder().decode((await reader.read()).value);
		await after();
		const began = Date.now();
		while (!text.includes(`data: ${id}`) && Date.now() - began < 1000 * seconds) {
			const { value, done } = await reader.read();
			if (done) return false;
			text += new TextDecoder().decode(value);
		}
		return text.includes(`data: ${id}`);
	} catch {
		return false;
	} finally {
		clearTimeout(timer);
		end.abort();
	}
}

describe('what other devices see', () => {
	it('a tap is told within two seconds, to those who follow the piece and to those who follow all; to nobody else', async () => {
		const [one, two] = [await startedPiece(planner, welder, 'Followed'), await startedPiece(planner, welder, 'Not followed')];
		const [step] = await stepsOf(welder, one.job);
		const send = (piece: string, what: object) => welder.post(`/api/pieces/${piece}/events`, { events: [what] });
		expect(await hears(`?piece=${one.piece}`, one.piece, () => send(one.piece, tap('step-done', step.id)), 2)).toBe(true);
		expect(await hears('', one.piece, () => send(one.piece, tap('note', step.id, { note: 'seen' })), 2)).toBe(true);
		expect(await hears(`?piece=${one.piece}`, two.piece, () => send(two.piece, tap('note', step.id, { note: 'unseen' })), 1)).toBe(false);
		// what is refused is told to nobody
		expect(await hears(`?piece=${two.piece}`, two.piece, () => send(two.piece, tap('undone', step.id, { about: crypto.randomUUID() })), 1)).toBe(
			false
		);
		expect((await welder.get('/api/bench-stream?piece=nobody')).status).toBe(404);
	});
	it('the board shows a piece with its step, its trouble and what was left; one that is not begun is not on it', async () => {
		const { piece, other, job } = await startedPiece(planner, welder, 'On the board');
		const steps = await stepsOf(welder, job);
		await welder.post(`/api/pieces/${piece}/events`, {
			events: [tap('step-skipped', steps[0].id), tap('step-problem', steps[1].id, { note: 'Edge is nicked <here>' })]
		});
		const page = String((await welder.get('/bench')).body);
		expect(page).toContain('Edge is nicked &lt;here>');
		expect(page).toContain(steps[2].title);
		expect(page).toMatch(new RegExp(`Left for later: .*${steps[0].title.slice(0, 20)}`));
		expect(page).toContain(`piece=${piece}`);
		expect(page).not.toContain(`piece=${other}`);
	});
	it('counts a wait by the heat that was put in: after a long pause it is over, though it has only begun', async () => {
		const { piece, job } = await startedPiece(planner, welder, 'A long pause');
		const steps = await stepsOf(welder, job);
		const wait = steps.findIndex((s) => s.kind === 'wait' && s.seconds > 20 && steps.some((r) => r.kind === 'run' && r.run === s.before));
		// everything before it was done two hours ago, with a minute for each step
		const began = Date.now() - 7_200_000 - 60_000 * wait;
		const events = steps.slice(0, wait).map((s, i) => ({ ...tap('step-done', s.id), happenedAt: new Date(began + 60_000 * i).toISOString() }));
		for (let i = 0; i < events.length; i += 50)
			expect((await welder.post(`/api/pieces/${piece}/events`, { events: events.slice(i, i + 50) })).status).toBe(200);
		// what the page is given: its end by the plan at once, that by the heat in a line of its own behind it
		const [head, ...chunks] = String((await welder.get('/bench/__data.json?all')).body)
			.trim()
			.split('\n')
			.map((l) => JSON.parse(l));
		const flat = head.nodes[1].data;
		const row = flat.find((v: { id?: number } | null) => typeof v?.id === 'number' && flat[v.id] === piece);
		const planned = flat[row.waitUntil];
		const until = chunks.find((c) => c.id === flat[flat[row.heatUntil][1]]).data[0];
		expect(planned).toBeGreaterThan(Date.now());
		expect(until).toBeLessThan(Date.now());
		expect(until).toBeGreaterThan(began);
	});
});

describe('a hold in the plan of a piece', () => {
	it('locks the bench until who must has signed it, wherever they sit; the board and the record tell', async () => {
		const inspector = await personOf('inspector');
		const job = await newJob(planner, 'Held');
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		const document = {
			...plan.document,
			holdPoints: [
				{ id: 'fit', kind: 'fit-up', at: 'tacked', signs: 'inspector' },
				{ id: 'seen', kind: 'witness', at: 'end', signs: 'inspector' }
			]
		};
		const bad = { ...document, holdPoints: [{ id: 'fit', kind: 'fit-up', at: 'swept', signs: 'inspector' }] };
		const put = (d: object, v = plan.version) => planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: v, plan: d });
		expect((await put(bad)).body.faults[0]).toMatchObject({ field: 'holdPoints[0].at', allowed: 'must be one of tacked for fit-up' });
		const saved = await put(document);
		expect(saved.status).toBe(200);
		await planner.post(`/api/jobs/${job}/issue`, { revision: plan.revision, version: plan.version + 1 });
		const [piece] = await piecesOf(job);
		const send = async (who: Client, ...events: object[]) =>
			(await who.post(`/api/pieces/${piece}/events`, { events })).body.refused as { message: string }[];
		await send(welder, tap('started'));
		// in a plan without holds nothing is signed, by whomever
		const plain = await startedPiece(planner, welder, 'Without holds');
		const [any] = await stepsOf(welder, plain.job);
		for (const [who, kind] of [
			[inspector, 'hold-signed'],
			[planner, 'hold-released']
		] as const)
			expect((await who.post(`/api/pieces/${plain.piece}/events`, { events: [tap(kind, any.id, { note: 'x' })] })).body.refused).toMatchObject([
				{ message: expect.stringMatching(/no such hold/) }
			]);
		const steps = await stepsOf(welder, job);
		const hold = steps.findIndex((s) => s.kind === 'sign');
		const before = steps.slice(0, hold).map((s) => tap('step-done', s.id));
		// in one batch: what is before it is taken, it and what follows is not
		const refused = await send(
			welder,
			...before,
			tap('hold-signed', steps[hold].id),
			tap('step-done', steps[hold].id),
			tap('step-done', steps[hold + 1].id)
		);
		expect(refused.map((r) => r.message)).toEqual([
			expect.stringMatching(/signed by an inspector/),
			expect.stringMatching(/is signed, not done/),
			expect.stringMatching(/is not signed yet: what comes after it is locked/)
		]);
		expect((await welder.get('/bench')).body).toContain('Waits to be signed by an inspector');
		// twice is once
		expect(await send(inspector, tap('hold-signed', steps[hold].id), tap('hold-signed', steps[hold].id))).toEqual([]);
		const { events } = (await welder.get(`/api/pieces/${piece}/events`)).body;
		expect(events.filter((e: { kind: string }) => e.kind === 'hold-signed').map((e: { person: string }) => e.person)).toEqual(['Test inspector']);
		expect(await send(welder, tap('undone', undefined, { about: events[events.length - 1].clientId }))).toMatchObject([
			{ message: expect.stringMatching(/taken back by an inspector/) }
		]);
		expect(await send(welder, ...steps.slice(hold + 1, -1).map((s) => tap('step-done', s.id)))).toEqual([]);
		const last = steps[steps.length - 1];
		expect(await send(inspector, tap('hold-signed', last.id))).toMatchObject([{ message: expect.stringMatching(/give who came/) }]);
		expect(await send(welder, tap('hold-released', last.id, { note: 'Nobody came' }))).toMatchObject([
			{ message: expect.stringMatching(/by a planner/) }
		]);
		expect(await send(planner, tap('hold-released', last.id, { note: 'Nobody came' }))).toEqual([]);
		const missing = (await inspector.get(`/jobs/${job}/hand-over?piece=${piece}`)).body as string;
		expect(missing).not.toContain('not behind it');
	});
});
