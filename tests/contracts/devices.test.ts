/** Devices: what sends at all, what is kept of it, for which piece. The simulated ones as the programs they are. Against the running server. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { BASE, personOf, startedPiece, type Client } from './client';

let planner: Client;
let welder: Client;
beforeAll(async () => {
	[planner, welder] = [await personOf('planner'), await personOf('welder')];
});
afterAll(closeDb);

const added = async (kind: string, isSimulated = false) => {
	const r = await planner.post('/api/devices', { kind, name: `${kind} ${randomUUID().slice(0, 8)}`, isSimulated });
	expect(r.status).toBe(201);
	return r.body as { id: string; token: string };
};
const put = (id: string, piece?: string) => welder.send('PATCH', `/api/devices/${id}`, piece ? { piece } : { isDetached: true });
async function send(token: string, body: string, type = 'application/x-ndjson') {
	const r = await fetch(`${BASE}/api/devices/readings`, {
		method: 'POST',
		headers: { authorization: `Bearer ${token}`, 'content-type': type },
		body
	});
	return { status: r.status, body: (await r.json()) as { taken?: number; refused?: { line: number; message: string }[]; message?: string } };
}
const reading = (more: object, at = new Date()) => JSON.stringify({ id: randomUUID(), at: at.toISOString(), ...more });
const heard = async (piece: string, after = 0) =>
	(await welder.get(`/api/pieces/${piece}/devices?after=${after}`)).body as {
		devices: { id: string }[];
		readings: { reading: Record<string, unknown> }[];
		last: number;
	};

describe('a device', () => {
	it('sends with its own token to the piece it stands at: once, each line by itself', async () => {
		const { piece, other } = await startedPiece(planner, welder, 'With a probe');
		const { id, token } = await added('probe');
		expect((await send(token, reading({ metalC: 90 }))).status).toBe(409);
		expect((await put(id, piece)).status).toBe(200);
		const same = reading({ metalC: 88.5 });
		const sent = await send(token, [same, '{"id":', reading({ oxygenPct: 3 }), reading({ metalC: 87 })].join('\n'));
		expect([sent.status, sent.body.taken, sent.body.refused!.map((r) => r.line)]).toEqual([200, 2, [2, 3]]);
		await send(token, same);
		const csv = `id,at,metalC\n${randomUUID()},${new Date().toISOString()},86\n`;
		expect((await send(token, csv, 'text/csv')).body.taken).toBe(1);
		const { devices, readings, last } = await heard(piece);
		expect(devices.map((d) => d.id)).toEqual([id]);
		expect(readings.map((r) => r.reading.metalC)).toEqual([88.5, 87, 86]);
		expect((await heard(piece, last)).readings).toEqual([]);
		// at another piece, its readings are that one's
		await put(id, other);
		await send(token, reading({ metalC: 40 }));
		expect([(await heard(piece)).devices, (await heard(piece, last)).readings, (await heard(other)).readings.length]).toEqual([[], [], 1]);
		await put(id);
		expect((await send(token, reading({ metalC: 40 }))).status).toBe(409);
	});
	it('is known by nothing but its token, and opens nothing else', async () => {
		const { token } = await added('oxygen');
		expect((await send('a'.repeat(32), reading({ oxygenPct: 1 }))).status).toBe(401);
		const bearer = { authorization: `Bearer ${token}` };
		expect((await fetch(`${BASE}/api/devices`, { headers: bearer })).status).toBe(401);
		// a write elsewhere is refused as any from outside
		expect((await fetch(`${BASE}/api/jobs`, { method: 'POST', headers: bearer, body: '{}' })).status).toBe(403);
		// and a page of another site, which can send no such header, is refused here too
		expect((await fetch(`${BASE}/api/devices/readings`, { method: 'POST', headers: { origin: 'http://elsewhere.example' }, body: '' })).status).toBe(
			403
		);
		expect((await welder.post('/api/devices', { kind: 'probe', name: 'x' })).status).toBe(403);
		const { status, body } = await planner.post('/api/devices', { kind: 'spoon', name: 'x' });
		expect([status, body.faults[0].field]).toEqual([400, 'kind']);
		expect((await send(token, 'x'.repeat(200_001))).status).toBe(400);
	});
	it('one of a kind stands at a piece: the later takes the place', async () => {
		const { piece } = await startedPiece(planner, welder, 'Two gauges');
		const [a, b, arc] = [await added('gauge'), await added('gauge'), await added('arc')];
		for (const d of [a, b, arc]) await put(d.id, piece);
		expect((await heard(piece)).devices.map((d) => d.id).sort()).toEqual([b.id, arc.id].sort());
		await planner.send('PATCH', `/api/devices/${b.id}`, { archived: true });
		expect((await heard(piece)).devices.map((d) => d.id)).toEqual([arc.id]);
		expect((await send(b.token, reading({ value: 1, unit: 'mm' }))).status).toBe(401);
	});
	it('a simulated one is started from here, sends as a real one would, and is pressed', { timeout: 60_000 }, async () => {
		const { piece } = await startedPiece(planner, welder, 'Simulated');
		const { id } = await added('switch', true);
		await put(id, piece);
		const say = (what: string) => welder.post(`/api/devices/${id}/simulate`, { what });
		expect((await say('press')).status).toBe(422);
		expect((await say('start')).body).toEqual({ isRunning: true });
		try {
			const until = Date.now() + 30_000;
			while (Date.now() < until && !(await heard(piece)).readings.length) {
				await say('press');
				await new Promise((go) => setTimeout(go, 1500));
			}
			expect((await heard(piece)).readings[0].reading).toMatchObject({ press: 'down' });
		} finally {
			expect((await say('stop')).body).toEqual({ isRunning: false });
		}
		const real = await added('arc');
		expect((await welder.post(`/api/devices/${real.id}/simulate`, { what: 'start' })).body.message).toMatch(/is a real one/);
	});
});
