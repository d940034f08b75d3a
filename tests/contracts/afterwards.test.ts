/** A piece after its last run: read in several ways, found out, put right, tested, decided on, signed, and found again in the logbook. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { type Client, personOf, readAll, readingOf, startedPiece, tap, weldOut } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);

const log = async (who: Client, piece: string, ...events: object[]) =>
	((await who.post(`/api/pieces/${piece}/events`, { events })).body.refused as { message: string }[]).map((r) => r.message);
const happened = (data: object, more: object = {}) => tap('happened', undefined, { data, ...more });
const sign = (piece: string, body: object = {}) => inspector.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Seen.', ...body });
const read = async (job: string, piece: string, feature: string, more: object) =>
	inspector.post(`/api/pieces/${piece}/measurements`, { ...(await readingOf(inspector, job, feature)), ...more });

/** Welded, and read as drawn but for its mouth, which is 4 mm narrow. */
async function narrow(name: string) {
	const { job, piece } = await startedPiece(planner, welder, name);
	await weldOut(welder, job, piece);
	await readAll(inspector, job, piece, { 'mouth-width': -4 });
	return { job, piece };
}

describe('a piece that is out', () => {
	it('is put right by a welder, read again, tested, and signed; the logbook knows it', { timeout: 90_000 }, async () => {
		const { job, piece } = await narrow('Put right');
		// what would bring it back, and what of it is done
		const page = String((await inspector.get(`/jobs/${job}/put-right?piece=${piece}`)).body);
		expect(page).toContain('Spread it with a jack');
		expect((await sign(piece)).body.faults[0].field).toBe('concession');
		const righted = happened({ what: 'corrected', way: 'pressed', feature: 'mouth-width', minutes: 9, foretold: -0.5 }, { note: 'jack, twice' });
		expect((await log(inspector, piece, righted))[0]).toMatch(/does not work at the bench/);
		expect((await log(welder, piece, happened({ what: 'corrected', way: 'pressed', feature: 'mouth-depth' })))[0]).toMatch(
			/must be a feature of the plan/
		);
		expect((await log(welder, piece, happened({ what: 'corrected' })))[0]).toMatch(/way: must be given/);
		expect((await log(welder, piece, happened({ what: 'corrected', way: 'hammered' })))[0]).toMatch(/way/);
		// what was foretold belongs to what was put right alone
		expect((await log(inspector, piece, happened({ what: 'leak-tested', leak: 'tight', foretold: 1 })))[0]).toMatch(/foretold: does not belong/);
		expect(await log(welder, piece, righted)).toEqual([]);
		// all of it is read again, for all of it may have moved
		const late = await sign(piece);
		expect([late.status, (late.body.message as string).match(/before the piece was last changed/g)?.length]).toEqual([422, 8]);
		await readAll(inspector, job, piece);
		await read(job, piece, 'mouth-width', { moment: 'corrected', method: 'tape-repeated', readings: [140.1, 139.9, 140] });
		// the welds did not make this: nothing is learned from it
		const { fresh, rows } = (await planner.get(`/api/pieces/${piece}/learn`)).body;
		expect(rows.some((r: { measured: number }) => Math.abs(r.measured + 4) < 0.01)).toBe(true);
		const after = (await getDb().execute(sql`select id from measurements where piece_id = ${piece} and moment = 'corrected'`)).rows.map((r) => r.id);
		expect(after.length).toBe(1);
		expect(fresh).not.toContain(after[0]);
		expect(rows.length).toBe(8);
		// seen and tested, by whoever inspects
		expect(
			await log(
				inspector,
				piece,
				happened({ what: 'surface', surface: 'tint-blue', minutes: 6 }),
				happened({ what: 'leak-tested', leak: 'leaks', minutes: 20 })
			)
		).toEqual([]);
		expect((await sign(piece)).body.message).toContain('It leaked when it was last tested');
		expect(await log(inspector, piece, happened({ what: 'leak-tested', leak: 'tight', minutes: 30 }))).toEqual([]);
		expect((await sign(piece)).status).toBe(201);

		const [{ summary }] = (await getDb().execute(sql`select summary from signatures where piece_id = ${piece}`)).rows as { summary: object }[];
		expect(summary).toMatchObject({
			outside: [],
			problems: [],
			reworkMin: 15,
			corrections: [{ way: 'pressed', feature: 'Mouth width at mid-length', gave: expect.closeTo(4, 6), due: expect.closeTo(3.5, 6) }]
		});
		const csv = async (query: string) =>
			Papa.parse<Record<string, string>>(String((await planner.get(`/api/logbook.csv?search=Put%20right&${query}`)).body), {
				header: true,
				skipEmptyLines: true
			}).data;
		expect(await csv('')).toMatchObject([
			{
				firstTimeRight: 'no',
				corrections: 'pressed for Mouth width at mid-length: 4.00 nearer',
				reworkMin: '15',
				welders: 'Test welder',
				accepted: 'true'
			}
		]);
		const { id } = (await getDb().execute(sql`select id from people where name = 'Test welder'`)).rows[0] as { id: string };
		const today = new Date().toISOString().slice(0, 10);
		for (const [query, count] of [
			[`welder=${id}`, 1],
			[`welder=${randomUUID()}`, 0],
			['material=1.4301&thicknessMm=1.5', 1],
			['material=1.4404', 0],
			['joint=corner-edge', 1],
			['joint=lap', 0],
			[`from=${today}&to=${today}`, 1],
			['to=2020-01-01', 0],
			['outcome=accepted', 1],
			['outcome=right', 0],
			['outcome=open', 0]
		] as const)
			expect((await csv(query)).length, query).toBe(count);
		for (const wrong of ['from=2026-02-31', 'thicknessMm=thin', 'joint=glued', 'outcome=fine', 'welder=me', 'page=0'])
			expect((await planner.get(`/api/logbook.csv?${wrong}`)).status, wrong).toBe(400);
		expect((await planner.get('/logbook?from=2026-02-31')).status).toBe(400);
		const book = String((await inspector.get(`/logbook?search=Put+right`)).body);
		expect(book).toContain('Pressed or bent over');
		// a percent sign is a letter, not a wild card
		expect(String((await inspector.get('/logbook?search=%25')).body)).toContain('No piece is like that');
	});
	it(
		'a non-conformance is anybody’s to open, its concession an inspector’s; what is to be scrapped is not accepted',
		{ timeout: 60_000 },
		async () => {
			const { job, piece } = await narrow('Non-conformance');
			await read(job, piece, 'mouth-width', {});
			const wrong = tap('step-problem', undefined, { note: 'Drain on the wrong side' });
			expect(await log(inspector, piece, wrong)).toEqual([]);
			expect((await sign(piece)).body.message).toContain('One problem is still open');
			const close = (who: Client, decided: string, minutes?: number) =>
				log(
					who,
					piece,
					tap('problem-closed', undefined, { about: wrong.clientId, note: 'Customer asked', data: { decided, ...(minutes ? { minutes } : {}) } })
				);
			expect((await close(welder, 'as-is'))[0]).toMatch(/is a concession: an inspector or a planner decides that/);
			expect((await close(inspector, 'forgotten'))[0]).toMatch(/decided/);
			// a step is passed by the bench alone
			expect((await log(inspector, piece, tap('step-problem', 'parts:0', { note: 'x' })))[0]).toMatch(/does not work at the bench/);
			expect(await close(inspector, 'scrap', 2)).toEqual([]);
			expect((await sign(piece)).body.message).toContain('It is to be scrapped: reject it');
			expect((await sign(piece, { accepted: false, statement: 'Scrapped.' })).status).toBe(201);
			const record = (await planner.get(`/api/jobs/${job}/record`)).body;
			expect(record.pieces[0].events.some((e: { data?: { decided?: string } }) => e.data?.decided === 'scrap')).toBe(true);
			expect((await planner.post('/api/jobs/import?record', record)).status).toBe(201);
			const papers = await Promise.all(['', '?short'].map((form) => planner.get(`/api/pieces/${piece}/record.pdf${form}`)));
			expect(papers.map((p) => p.status)).toEqual([200, 200]);
			expect(String(papers[1].body).length).toBeLessThan(0.7 * String(papers[0].body).length);
			const rows = Papa.parse<Record<string, string>>(String((await planner.get(`/api/pieces/${piece}/readings.csv`)).body), {
				header: true,
				skipEmptyLines: true
			}).data;
			expect(rows.length).toBe(9);
			expect(rows.find((r) => r.feature === 'Mouth width at mid-length')).toMatchObject({
				value: '-4',
				unit: 'mm',
				moment: 'unclamped',
				readBy: 'Test inspector'
			});
		}
	);
	it('is read as received and after a run; neither decides', { timeout: 60_000 }, async () => {
		const { job, piece } = await startedPiece(planner, welder, 'Any moment');
		for (const moment of ['as-received', 'after-run', 'corrected'])
			expect((await read(job, piece, 'mouth-width', { moment })).status, moment).toBe(201);
		expect((await read(job, piece, 'mouth-width', { moment: 'yesterday' })).status).toBe(400);
		await weldOut(welder, job, piece);
		expect((await sign(piece)).body.message).toContain('Mouth width at mid-length: measured before the piece was last changed');
		for (const [feature, method, readings, status] of [
			['mouth-width', 'calliper', [139.5], 201],
			['rim-front', 'dial-line', [0, 0.1, 0.3, 0.2, 0], 201],
			['rim-front', 'straightedge', [0.4], 201],
			['mouth-width', 'laser-spot', [1, 2, 3, 4], 400],
			['rim-front', 'dial-line', [0, 0.1], 422]
		] as const)
			expect((await read(job, piece, feature, { method, readings })).status, `${feature} ${method}`).toBe(status);
	});
});
