/** What other devices see of a bench: the notice of a tap, and the board of all pieces. Against the running server and real PostgreSQL. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { BASE, type Client, personOf, startedPiece, stepsOf, tap } from './client';

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
});
