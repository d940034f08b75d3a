/** Photographs of a piece: what is taken, what is kept of it, and where it comes out again. Against the running server. */
import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb } from '$store/database';
import { MOST_PHOTOGRAPHS } from '$store/photographs';
import { BASE, type Client, personOf, readAll, startedPiece, stepsOf, weldOut } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);

/** Left half red, right half blue, lying on its side: upright, red is at the top. With a place and an owner, as a phone writes them. */
const asTaken = (width = 2400, height = 1200) =>
	sharp({ create: { width, height, channels: 3, background: '#0000ff' } })
		.composite([{ input: { create: { width: width / 2, height, channels: 3, background: '#ff0000' } }, left: 0, top: 0 }])
		.withExif({ IFD0: { Artist: 'A Person', Copyright: 'A Person' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 3230/100' } })
		.withMetadata({ orientation: 6 })
		.jpeg()
		.toBuffer();
const query = (more: Record<string, string> = {}) =>
	new URLSearchParams({ clientId: randomUUID(), takenAt: new Date().toISOString(), ...more }).toString();
async function send(who: Client, piece: string, bytes: Uint8Array, asked = query()) {
	const r = await fetch(`${BASE}/api/pieces/${piece}/photographs?${asked}`, {
		method: 'POST',
		headers: { origin: BASE, 'content-type': 'application/octet-stream', ...who.session() },
		body: new Uint8Array(bytes)
	});
	return { status: r.status, body: (await r.json()) as { clientId?: string; widthPx?: number; message?: string; faults?: { allowed: string }[] } };
}
async function picture(who: Client, piece: string, id: string, small = false) {
	const r = await fetch(`${BASE}/api/pieces/${piece}/photographs/${id}${small ? '?small' : ''}`, { headers: who.session() });
	expect(r.headers.get('content-type')).toBe('image/jpeg');
	return Buffer.from(await r.arrayBuffer());
}
const listOf = async (who: Client, piece: string) => (await who.get(`/api/pieces/${piece}/photographs`)).body.photographs as { clientId: string }[];

describe('a photograph of a piece', () => {
	it('is kept upright, small and without what the camera wrote beside it; sent twice it is one', async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Photographed');
		const [step] = await stepsOf(welder, job);
		const taken = await asTaken();
		const { exif } = await sharp(taken).metadata();
		expect(exif?.toString('latin1')).toContain('A Person');
		const asked = query({ step: step.id, note: 'Edge <nicked>' });
		expect((await send(welder, piece, taken, asked)).status).toBe(201);
		expect((await send(welder, piece, taken, asked)).status).toBe(201);
		const [one, ...more] = await listOf(inspector, piece);
		expect(more).toEqual([]);
		expect(one).toMatchObject({ step: step.id, note: 'Edge <nicked>', person: 'Test welder', widthPx: 800, heightPx: 1600, sentBy: null });
		const kept = await picture(inspector, piece, one.clientId);
		const meta = await sharp(kept).metadata();
		expect([meta.format, meta.width, meta.height, meta.exif, meta.orientation]).toEqual(['jpeg', 800, 1600, undefined, undefined]);
		const { data } = await sharp(kept).extract({ left: 400, top: 100, width: 1, height: 1 }).raw().toBuffer({ resolveWithObject: true });
		expect(data[0]).toBeGreaterThan(200);
		expect(data[2]).toBeLessThan(60);
		expect(kept.includes(Buffer.from('A Person'))).toBe(false);
		const { height } = await sharp(await picture(welder, piece, one.clientId, true)).metadata();
		expect(height).toBe(360);
	});
	it('what is no picture, or no whole one, or too large, is refused in words and nothing is kept', async () => {
		const { piece } = await startedPiece(planner, welder, 'No pictures');
		const jpeg = await asTaken(400, 300);
		const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>');
		// a PNG of few bytes that asks for a wall of memory
		const bomb = await sharp({ create: { width: 40, height: 30, channels: 3, background: 'red' }, limitInputPixels: false })
			.png()
			.toBuffer();
		bomb.writeUInt32BE(60_000, 16);
		bomb.writeUInt32BE(60_000, 20);
		for (const [bytes, words] of [
			[Buffer.alloc(0), /JPEG, PNG or WebP/],
			[Buffer.from('<script>alert(1)</script>'), /JPEG, PNG or WebP/],
			[svg, /JPEG, PNG or WebP/],
			[Buffer.from('GIF89a..........'), /JPEG, PNG or WebP/],
			[Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.from('not a picture at all')]), /whole picture/],
			[jpeg.subarray(0, jpeg.length / 2), /whole picture/],
			[bomb, /whole picture/],
			[Buffer.alloc(10_000_001, 0xff), /at most 10 MB/]
		] as const) {
			const r = await send(welder, piece, bytes);
			expect([r.status, r.body.faults?.[0].allowed], words.source).toEqual([400, expect.stringMatching(words)]);
		}
		for (const [asked, field] of [
			[query({ clientId: 'me' }), /UUID/],
			[query({ takenAt: 'yesterday' }), /time like/],
			[query({ note: 'x'.repeat(301) }), /300/],
			[query({ colour: 'red' }), /./]
		] as const) {
			const r = await send(welder, piece, jpeg, asked);
			expect([r.status, r.body.faults?.[0].allowed], String(field)).toEqual([400, expect.stringMatching(field)]);
		}
		expect((await send(welder, randomUUID(), jpeg)).status).toBe(404);
		expect((await send(welder, piece, jpeg, query({ stamp: randomUUID() }))).status).toBe(422);
		expect(await listOf(welder, piece)).toEqual([]);
		expect((await welder.get(`/api/pieces/${piece}/photographs/${randomUUID()}`)).status).toBe(404);
	});
	it('of another piece is not found under this one, and a signed piece takes none', async () => {
		const { job, piece, other } = await startedPiece(planner, welder, 'Signed with a photograph');
		const jpeg = await asTaken(400, 300);
		const asked = query();
		const { clientId } = (await send(inspector, piece, jpeg, asked)).body;
		expect((await send(welder, other, jpeg, asked)).body.message).toMatch(/already on another piece/);
		expect((await welder.get(`/api/pieces/${other}/photographs/${clientId}`)).status).toBe(404);
		await weldOut(welder, job, piece);
		await readAll(inspector, job, piece);
		expect((await inspector.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Seen.' })).status).toBe(201);
		const late = await send(welder, piece, jpeg);
		expect([late.status, late.body.message]).toEqual([422, expect.stringMatching(/handed over/)]);
		// a tablet that missed the answer is told that it is there
		expect((await send(inspector, piece, jpeg, asked)).status).toBe(201);
		expect((await listOf(welder, piece)).length).toBe(1);
	});
	it('goes into the record, its paper, and the history of a job read from it', async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Recorded photograph');
		const [step] = await stepsOf(welder, job);
		const before = (await welder.get(`/api/pieces/${piece}/record.pdf`)).body as string;
		await send(welder, piece, await asTaken(), query({ step: step.id }));
		const paper = (await welder.get(`/api/pieces/${piece}/record.pdf`)).body as string;
		expect([before.includes('/DCTDecode'), paper.includes('/DCTDecode')]).toEqual([false, true]);
		const record = (await planner.get(`/api/jobs/${job}/record`)).body;
		const [shown] = record.pieces.find((p: { photographs: unknown[] }) => p.photographs.length).photographs;
		expect(shown).toMatchObject({ step: step.id, title: step.title, person: 'Test welder' });
		const brought = await planner.post('/api/jobs/import?record&name=History%20of%20photographs', record);
		expect(brought.status).toBe(201);
		const r = await fetch(`${BASE}/api/jobs/${brought.body.job.id}/history/${shown.clientId}`, { headers: welder.session() });
		expect(Buffer.from(await r.arrayBuffer())).toEqual(await picture(welder, piece, shown.clientId));
		const page = (await welder.get(`/jobs/${brought.body.job.id}/history`)).body as string;
		expect(page).toContain(`/api/jobs/${brought.body.job.id}/history/${shown.clientId}`);
		// what is not a picture is refused with the rest of the file
		shown.jpeg = 'not base64 !';
		expect((await planner.post('/api/jobs/import?record', record)).body.faults[0]).toMatchObject({ allowed: 'must be a JPEG in base64' });
	});
	it('a piece has as many as a record can hold, and no more', async () => {
		const { piece } = await startedPiece(planner, welder, 'Many photographs');
		const jpeg = await asTaken(80, 60);
		const sent = await Promise.all(Array.from({ length: MOST_PHOTOGRAPHS + 3 }, () => send(welder, piece, jpeg)));
		expect(sent.filter((s) => s.status === 201).length).toBe(MOST_PHOTOGRAPHS);
		expect(sent.find((s) => s.status !== 201)?.body.message).toMatch(/as many as a record holds/);
	});
});
