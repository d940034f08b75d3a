/** The record: who tapped, what a signature stands for, and what nobody can change. Against the running server and real PostgreSQL. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { addPerson } from '$store/library';
import { Client, personOf, readAll, readingOf, startedPiece, stepsOf, tap, TEST_PIN, weldOut } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
let admin: Client;
beforeAll(async () => {
	[planner, welder, inspector, admin] = [await personOf('planner'), await personOf('welder'), await personOf('inspector'), await personOf('admin')];
});
afterAll(closeDb);

const begun = (name: string) => startedPiece(planner, welder, name);
const log = async (piece: string) => (await planner.get(`/api/pieces/${piece}/events`)).body.events as Record<string, string>[];
/** what the page of a signed-in person gives its taps */
const stampOf = async (name: string) =>
	(
		await getDb().execute(
			sql`select s.id from bench_stamps s join people p on p.id = s.person_id where p.name = ${name} order by s.created_at desc limit 1`
		)
	).rows[0].id as string;

describe('who did it', () => {
	it('of a long log only what is not known yet is answered, a page at a time', async () => {
		const { piece } = await begun('Long log');
		const notes = Array.from({ length: 2200 }, (_, i) => tap('note', 'check:a', { note: `${i} ${'x'.repeat(300)}` }));
		const sent = await welder.post(`/api/pieces/${piece}/events`, { events: notes });
		expect([sent.status, sent.body.events.length, sent.body.more]).toEqual([200, 1000, true]);
		expect(JSON.stringify(sent.body).length).toBeLessThan(1e6);
		const lines: { seq: number; clientId: string }[] = [];
		for (let more = true; more;) {
			const after = lines[lines.length - 1]?.seq ?? 0;
			const r = await welder.get(`/api/pieces/${piece}/events?after=${after}`);
			expect(r.body.after).toBe(after);
			lines.push(...r.body.events);
			more = r.body.more;
		}
		expect(lines.slice(1).map((l) => l.clientId)).toEqual(notes.map((n) => n.clientId));
		const last = lines[lines.length - 1].seq;
		const one = tap('note', 'check:a', { note: 'the newest' });
		const next = await welder.post(`/api/pieces/${piece}/events`, { events: [one], after: last });
		expect(next.body.events.map((e: { clientId: string }) => e.clientId)).toEqual([one.clientId]);
		for (const after of ['-1', 'x', '1.5'])
			expect((await welder.get(`/api/pieces/${piece}/events?after=${after}`)).body.faults[0].field).toBe('after');
	});
	it('thousands of entries that are none are each refused, in an answer of less than a megabyte', async () => {
		const { piece } = await begun('All wrong');
		const r = await welder.post(`/api/pieces/${piece}/events`, { events: Array.from({ length: 5000 }, () => ({ x: 'y'.repeat(300) })), after: 1e9 });
		expect([r.status, r.body.refused.length]).toEqual([200, 5000]);
		expect(JSON.stringify(r.body).length).toBeLessThan(1e6);
		expect(r.body.refused[4999].message).toMatch(/: /);
	});
	it('of long notes in letters of many bytes no answer is longer than a megabyte, and none is lost', async () => {
		const { piece } = await begun('Long notes');
		const notes = Array.from({ length: 700 }, (_, i) => tap('note', 'check:a', { note: `${i} ${'\u20ac'.repeat(1900)}` }));
		for (let i = 0; i < notes.length; i += 100) await welder.post(`/api/pieces/${piece}/events`, { events: notes.slice(i, i + 100), after: 1e9 });
		const lines: { seq: number; clientId: string }[] = [];
		for (let more = true; more;) {
			const r = await welder.get(`/api/pieces/${piece}/events?after=${lines[lines.length - 1]?.seq ?? 0}`);
			expect(Buffer.byteLength(JSON.stringify(r.body))).toBeLessThan(1e6);
			lines.push(...r.body.events);
			more = r.body.more;
		}
		expect(lines.slice(1).map((l) => l.clientId)).toEqual(notes.map((n) => n.clientId));
	});
	it('a tap sent under another session keeps its own person, and says who sent it', async () => {
		const { piece } = await begun('Under another');
		const stamp = await stampOf('Test welder');
		const r = await inspector.post(`/api/pieces/${piece}/events`, { events: [tap('step-done', 'check:a', { stamp })] });
		expect(r.body.refused).toEqual([]);
		expect((await log(piece)).at(-1)).toMatchObject({ person: 'Test welder', sentBy: 'Test inspector' });
		// the welder's own says no sender
		await welder.post(`/api/pieces/${piece}/events`, { events: [tap('note', 'check:a', { note: 'x', stamp })] });
		expect((await log(piece)).at(-1)).toMatchObject({ person: 'Test welder', sentBy: null });
	});
	it('a stamp nobody was given, and an inspector who taps a step, are refused by name', async () => {
		const { piece } = await begun('Whose tap');
		const r = await welder.post(`/api/pieces/${piece}/events`, { events: [tap('step-done', 'check:a', { stamp: randomUUID() })] });
		expect(r.body.refused[0].message).toMatch(/Nobody is known/);
		const own = await inspector.post(`/api/pieces/${piece}/events`, { events: [tap('step-done', 'check:a')] });
		expect(own.body.refused[0].message).toBe('Test inspector does not work at the bench: the role is inspector');
		expect(await log(piece)).toHaveLength(1);
	});
	it('two tablets tap the same step: it is done once, and no other tap is lost', async () => {
		const { piece } = await begun('Two tablets');
		const other = await personOf('welder');
		await Promise.all(
			[welder, other].flatMap((c) =>
				['a', 'b', 'c'].map((s) =>
					c.post(`/api/pieces/${piece}/events`, { events: [tap('step-done', s), tap('note', s, { note: 'seen' }), tap('wait-started', s)] })
				)
			)
		);
		const kinds = (await log(piece)).map((e) => `${e.kind} ${e.step ?? ''}`).sort();
		expect(kinds.filter((k) => k.startsWith('step-done'))).toEqual(['step-done a', 'step-done b', 'step-done c']);
		expect(kinds.filter((k) => k.startsWith('wait-started'))).toHaveLength(3);
		expect(kinds.filter((k) => k.startsWith('note'))).toHaveLength(6);
	});
	it('an id that another piece’s log holds is refused, and changes nothing there', async () => {
		const [one, two] = [await begun('Same id 1'), await begun('Same id 2')];
		const e = tap('note', 'a', { note: 'mine' });
		await welder.post(`/api/pieces/${one.piece}/events`, { events: [e] });
		const r = await welder.post(`/api/pieces/${two.piece}/events`, { events: [e, tap('step-done', 'b')] });
		expect(r.body.refused).toMatchObject([{ clientId: e.clientId }]);
		expect((await log(two.piece)).map((x) => x.kind)).toEqual(['started', 'step-done']);
	});
	it('a tap taken back stays in the log with the line that takes it back, once, and its step may be done anew', async () => {
		const { piece, job } = await begun('Taken back');
		const [step] = await stepsOf(welder, job);
		const send = (...events: object[]) => welder.post(`/api/pieces/${piece}/events`, { events });
		const first = tap('step-done', step.id);
		await send(first);
		const back = () => tap('undone', step.id, { about: first.clientId });
		// two tablets take the same tap back: the second changes nothing
		expect([(await send(back())).body.refused, (await send(back())).body.refused]).toEqual([[], []]);
		await send(tap('step-done', step.id));
		expect((await log(piece)).map((e) => e.kind)).toEqual(['started', 'step-done', 'undone', 'step-done']);
		// neither the start nor what is not there is taken back
		const start = (await log(piece))[0].clientId;
		for (const about of [start, randomUUID()])
			expect((await send(tap('undone', undefined, { about }))).body.refused[0].message).toMatch(/no such entry/);
		// a finish taken back opens the piece again
		await weldOut(welder, job, piece);
		const state = async () => (await getDb().execute(sql`select state from pieces where id = ${piece}`)).rows[0].state;
		expect(await state()).toBe('welded');
		await send(tap('undone', undefined, { about: (await log(piece)).at(-1)!.clientId }));
		expect(await state()).toBe('in-hand');
	});
	it('what went otherwise is held against the plan: seam, station, part and hold-down are its own, and each entry carries what belongs to it', async () => {
		const { piece, job } = await begun('Otherwise');
		const steps = await stepsOf(welder, job);
		const run = steps.find((s) => s.kind === 'run')!;
		const send = async (kind: string, step: string | undefined, data?: object) =>
			(await welder.post(`/api/pieces/${piece}/events`, { events: [tap(kind, step, data ? { data } : {})] })).body.refused[0]?.message as
				string | undefined;
		expect(await send('happened', run.id, { what: 'pinhole', joint: run.joint, stationMm: 12 })).toBeUndefined();
		expect(await send('happened', run.id, { what: 'as-set', currentA: 71 })).toBeUndefined();
		expect(await send('laid', run.id, { fromMm: run.fromMm, toMm: (run.fromMm + run.toMm) / 2 })).toBeUndefined();
		for (const [kind, step, data, words] of [
			['happened', run.id, { what: 'pinhole', joint: run.joint, stationMm: 9000 }, /data.stationMm: must lie on the seam/],
			['happened', run.id, { what: 'pinhole', joint: 'nowhere', stationMm: 1 }, /data.joint: must be a seam/],
			['happened', run.id, { what: 'pinhole' }, /data.joint: must be given/],
			['happened', run.id, { what: 'fan', metalC: 40 }, /data.metalC: does not belong/],
			['happened', run.id, { what: 'as-set' }, /give the current or the speed/],
			['happened', run.id, { what: 'metal', metalC: 5000 }, /metalC/],
			['happened', run.id, { what: 'surprise' }, /what: must be one of/],
			['happened', run.id, undefined, /data.what: must be given/],
			['laid', 'check:a', { fromMm: 1, toMm: 2 }, /step: must be a run/],
			['note', run.id, { what: 'fan' }, /does not belong/]
		] as const)
			expect(await send(kind, step, data), JSON.stringify(data)).toMatch(words);
		const kept = (await welder.get(`/api/pieces/${piece}/events`)).body.events.slice(1) as { data: object }[];
		expect(kept.map((e) => e.data)).toEqual([
			{ what: 'pinhole', joint: run.joint, stationMm: 12 },
			{ what: 'as-set', currentA: 71 },
			{ fromMm: run.fromMm, toMm: (run.fromMm + run.toMm) / 2 }
		]);
	});
	it('a batch of thousands is taken whole', async () => {
		const { piece } = await begun('Long offline');
		const r = await welder.post(`/api/pieces/${piece}/events`, {
			events: Array.from({ length: 3000 }, (_, i) => tap('note', 'a', { note: `n${i}` }))
		});
		expect([r.status, r.body.refused]).toEqual([200, []]);
		const [last] = (await getDb().execute(sql`select count(*)::int as n, max(seq) as seq from bench_events where piece_id = ${piece}`)).rows;
		expect(last.n).toBe(3001);
		expect((await welder.get(`/api/pieces/${piece}/events?after=${Number(last.seq) - 1}`)).body.events[0].note).toBe('n2999');
	});
});

describe('what a signature stands for', () => {
	const sign = (piece: string, body: object = {}, who = inspector) =>
		who.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Seen.', ...body });

	it('nothing done: not accepted, and what is missing is said', async () => {
		const { piece, job } = await begun('Nothing done');
		const r = await sign(piece);
		expect(r.status).toBe(422);
		const steps = await stepsOf(planner, job);
		expect(r.body.message).toContain(`${steps.length} steps are not behind it`);
		expect(r.body.message).toContain('Mouth width at mid-length: not measured');
	});
	it('a reading before the last run, a warm one and one as tacked do not do', async () => {
		const { piece, job } = await begun('Too early');
		const ids = await readAll(inspector, job, piece);
		await weldOut(welder, job, piece);
		expect((await sign(piece)).body.message).toContain('measured before the piece was last changed');
		for (const id of ids) await inspector.post(`/api/pieces/${piece}/measurements`, await readingOf(inspector, job, id, 0, { metalC: 60 }));
		expect((await sign(piece)).status).toBe(422);
		for (const id of ids.slice(1)) await inspector.post(`/api/pieces/${piece}/measurements`, await readingOf(inspector, job, id));
		await inspector.post(`/api/pieces/${piece}/measurements`, await readingOf(inspector, job, ids[0], 0, { moment: 'as-tacked' }));
		const last = await sign(piece);
		expect([last.status, (last.body.message as string).match(/measured/g)?.length]).toEqual([422, 1]);
		await inspector.post(`/api/pieces/${piece}/measurements`, await readingOf(inspector, job, ids[0], 0, { metalC: 22 }));
		expect((await sign(piece)).status).toBe(201);
	});
	it('an open problem, and something outside without a reason, stand in its way', async () => {
		const { piece, job } = await begun('Concession');
		const steps = await stepsOf(planner, job);
		const problem = tap('step-problem', steps[0].id, { note: 'Film stuck' });
		await welder.post(`/api/pieces/${piece}/events`, { events: [problem] });
		await weldOut(welder, job, piece);
		await readAll(inspector, job, piece, { 'mouth-width': -9 });
		expect((await sign(piece)).body.message).toContain('One problem is still open');
		const close = (more: object) =>
			inspector.post(`/api/pieces/${piece}/events`, { events: [tap('problem-closed', undefined, { about: problem.clientId, ...more })] });
		expect((await close({})).body.refused[0].message).toBe('Say what became of the problem');
		expect((await close({ about: randomUUID(), note: 'x' })).body.refused[0].message).toBe('There is no such problem on this piece');
		expect((await close({ note: 'Peeled and cleaned' })).body.refused).toEqual([]);
		const bare = await sign(piece);
		expect([bare.status, bare.body.faults[0].field]).toEqual([422, 'concession']);
		expect(bare.body.message).toContain('Outside its limits: Mouth width at mid-length');
		expect((await sign(piece, { concession: 'Lid is made to measure' })).status).toBe(201);
		const row = (await getDb().execute(sql`select concession, accepted from signatures where piece_id = ${piece}`)).rows[0];
		expect(row).toEqual({ concession: 'Lid is made to measure', accepted: true });
	});
	it('who welded does not sign, unless the shop says so; rejecting needs no more than a beginning', async () => {
		const name = `Both hands ${randomUUID().slice(0, 6)}`;
		await addPerson(getDb(), name, TEST_PIN, ['welder', 'inspector']);
		const both = new Client();
		await both.post('/api/sign-in', { name, pin: TEST_PIN });
		const { piece, job } = await startedPiece(planner, both, 'Own work');
		await weldOut(both, job, piece);
		await readAll(both, job, piece);
		expect((await sign(piece, {}, both)).body.message).toMatch(/another inspector signs/);
		// a single stretch of a run is welding too
		const other = await startedPiece(planner, welder, 'A stretch of it');
		const run = (await stepsOf(welder, other.job)).find((s) => s.kind === 'run')!;
		await both.post(`/api/pieces/${other.piece}/events`, {
			events: [tap('laid', run.id, { data: { fromMm: run.fromMm, toMm: (run.fromMm + run.toMm) / 2 } })]
		});
		await weldOut(welder, other.job, other.piece);
		await readAll(welder, other.job, other.piece);
		expect((await sign(other.piece, {}, both)).body.message).toMatch(/another inspector signs/);
		await admin.send('PATCH', '/api/settings', { inspectorMayWeld: 'always' });
		const mine = await sign(piece, {}, both);
		await admin.send('PATCH', '/api/settings', { inspectorMayWeld: 'alone' });
		expect(mine.status).toBe(201);
		const scrap = await begun('Burnt through');
		expect((await sign(scrap.piece, { accepted: false, statement: 'Burnt through at the corner.' })).status).toBe(201);
		expect((await sign(scrap.other, { accepted: false })).status).toBe(422);
	});
	it('a reading and a signature at the same moment: either it counts or it is refused, never in between', async () => {
		for (let i = 0; i < 4; i++) {
			const { piece, job } = await begun(`Race ${i}`);
			await weldOut(welder, job, piece);
			await readAll(inspector, job, piece);
			const late = await readingOf(inspector, job, 'mouth-width', -9);
			const [reading, signature] = await Promise.all([inspector.post(`/api/pieces/${piece}/measurements`, late), sign(piece)]);
			// the outside reading got in first: no acceptance without a reason; or the signature did: no reading after it
			expect([[201, 422].join(), [422, 201].join()]).toContain([reading.status, signature.status].join());
		}
	});
	it('only an inspector withdraws an inspector’s reading', async () => {
		const { piece, job } = await begun('Whose reading');
		const m = (await inspector.post(`/api/pieces/${piece}/measurements`, await readingOf(inspector, job, 'mouth-width'))).body.measurement;
		const w = await welder.send('PATCH', `/api/pieces/${piece}/measurements/${m.id}`, { why: 'looks bad' });
		expect([w.status, w.body.message]).toEqual([422, 'Test inspector read this as an inspector: only an inspector withdraws it']);
		expect((await inspector.send('PATCH', `/api/pieces/${piece}/measurements/${m.id}`, { why: 'tape slipped' })).status).toBe(200);
	});
	it('the record prints who did what when', async () => {
		const { piece, job } = await begun('Printed');
		await weldOut(welder, job, piece);
		await readAll(inspector, job, piece);
		await sign(piece);
		const pdf = await inspector.get(`/api/pieces/${piece}/record.pdf`);
		expect(pdf.headers.get('content-type')).toBe('application/pdf');
		expect(pdf.headers.get('cache-control')).toBe('no-store');
	});
});

describe('the audit', () => {
	const rows = async () =>
		(await getDb().execute(sql`select a.kind, a.about, a.address, p.name from audit a left join people p on p.id = a.person_id order by seq`)).rows;

	it('tells of sign-ins and failures, of people, PINs and roles, of exports, withdrawals, signatures and settings', async () => {
		const name = `Audited ${randomUUID().slice(0, 6)}`;
		const made = (await admin.post('/api/people', { name, pin: '7391', roles: ['welder'] })).body.person;
		await new Client().post('/api/sign-in', { name, pin: '9265' });
		const own = new Client();
		await own.post('/api/sign-in', { name, pin: '7391' });
		await own.send('PATCH', '/api/me', { pin: '7391', newPin: '8264' });
		const version = async () => (await admin.get('/api/people')).body.people.find((p: { id: string }) => p.id === made.id).version;
		await admin.send('PATCH', `/api/people/${made.id}`, { version: await version(), roles: ['welder', 'inspector'] });
		await admin.send('PATCH', `/api/people/${made.id}`, { version: await version(), archived: true });
		const told = (await rows()).filter((r) => r.name === name || String(r.about).toLowerCase().includes(name.toLowerCase())).map((r) => r.kind);
		expect(told).toEqual(expect.arrayContaining(['person-added', 'sign-in-failed', 'sign-in', 'pin-changed', 'roles-changed', 'person-archived']));
		const kinds = new Set((await rows()).map((r) => r.kind));
		for (const kind of ['signed', 'reading-withdrawn', 'setting-changed', 'exported']) expect(kinds).toContain(kind);
		expect(JSON.stringify(await rows())).not.toContain('8264');
	});
	it('is shown to admins only', async () => {
		expect((await welder.get('/people/audit')).status).toBe(403);
		const page = await admin.get('/people/audit');
		expect(page.status).toBe(200);
		expect(String(page.body)).toContain('wrong PIN');
	});
});
