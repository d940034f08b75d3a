/** What the data must never do: lose a save, change a record, take something half. Against real PostgreSQL. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { Client, newJob, personOf, piecesOf, readAll, TEST_PIN, weldOut } from './client';

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);

const planOf = async (job: string) => (await planner.get(`/api/jobs/${job}/plan`)).body.plan;
const event = (kind: string, step?: string) => ({ clientId: randomUUID(), kind, ...(step ? { step } : {}), happenedAt: new Date().toISOString() });

describe('saving', () => {
	it('the second of two savers is told, gets what is stored, and nothing is lost', async () => {
		const job = await newJob(planner);
		const base = await planOf(job);
		const mine = { ...base.document, interpassLimitC: 140 };
		const theirs = { ...base.document, interpassLimitC: 120 };
		const at = { revision: base.revision, version: base.version };
		expect((await planner.send('PUT', `/api/jobs/${job}/plan`, { ...at, plan: theirs })).status).toBe(200);
		const second = await planner.send('PUT', `/api/jobs/${job}/plan`, { ...at, plan: mine });
		expect(second.status).toBe(409);
		expect(second.body.current.document.interpassLimitC).toBe(120);
		const again = await planner.send('PUT', `/api/jobs/${job}/plan`, {
			revision: second.body.current.revision,
			version: second.body.current.version,
			plan: mine
		});
		expect(again.status).toBe(200);
		expect((await planOf(job)).document.interpassLimitC).toBe(140);
	});

	it('two saves at the same moment: one wins, one is told', async () => {
		const job = await newJob(planner);
		const base = await planOf(job);
		const put = (limit: number) =>
			planner.send('PUT', `/api/jobs/${job}/plan`, {
				revision: base.revision,
				version: base.version,
				plan: { ...base.document, interpassLimitC: limit }
			});
		const codes = (await Promise.all([put(100), put(110), put(130), put(160)])).map((r) => r.status).sort();
		expect(codes).toEqual([200, 409, 409, 409]);
	});

	it('job fields likewise; archive and restore; a duplicate is a job of its own', async () => {
		const job = await newJob(planner);
		const now = (await planner.get(`/api/jobs/${job}`)).body.job;
		expect((await planner.send('PATCH', `/api/jobs/${job}`, { version: now.version, name: 'Renamed' })).status).toBe(200);
		const late = await planner.send('PATCH', `/api/jobs/${job}`, { version: now.version, name: 'Too late' });
		expect([late.status, late.body.current.name]).toEqual([409, 'Renamed']);
		await planner.send('PATCH', `/api/jobs/${job}`, { version: now.version + 1, archived: true });
		const ids = async (q: string) => (await planner.get(`/api/jobs${q}`)).body.jobs.map((j: { id: string }) => j.id);
		expect(await ids('')).not.toContain(job);
		expect(await ids('?archived')).toContain(job);
		const copy = await planner.post(`/api/jobs/${job}/duplicate`, { name: 'A copy' });
		expect(copy.status).toBe(201);
		expect((await planOf(copy.body.job.id)).document).toEqual((await planOf(job)).document);
		// with its own head where one is given
		const like = await planner.post(`/api/jobs/${job}/duplicate`, { name: 'Like it', customer: 'Fen Weir', dueDate: '2027-02-01', quantity: 4 });
		expect(like.body.job).toMatchObject({ name: 'Like it', customer: 'Fen Weir', dueDate: '2027-02-01', quantity: 4 });
		const wrong = await planner.post(`/api/jobs/${job}/duplicate`, { name: 'Like it', quantity: 0 });
		expect([wrong.status, wrong.body.faults[0].field]).toEqual([400, 'quantity']);
	});

	it('search finds by name, number and material; % and _ are only themselves', async () => {
		const job = await newJob(planner, 'Odd 100% name');
		const find = async (q: string) => (await planner.get(`/api/jobs?search=${encodeURIComponent(q)}`)).body.jobs.map((j: { id: string }) => j.id);
		expect(await find('odd 100%')).toContain(job);
		expect(await find('odd 100_')).not.toContain(job);
		expect(await find('1.4301')).toContain(job);
	});
});

describe('refusals name field, value and what is allowed', () => {
	it('a bad plan is refused whole', async () => {
		const job = await newJob(planner);
		const base = await planOf(job);
		const plan = structuredClone(base.document);
		plan.parts[0].thicknessMm = -1;
		plan.joints[0].gapMm = 'wide';
		const r = await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: base.revision, version: base.version, plan });
		expect(r.status).toBe(400);
		expect(r.body.faults.map((f: { field: string }) => f.field)).toEqual(
			expect.arrayContaining(['plan.parts[0].thicknessMm', 'plan.joints[0].gapMm'])
		);
		expect((await planOf(job)).version).toBe(base.version);
	});
	it.each([
		['a NUL in a name', { name: 'Trough\u0000' }, 'name'],
		['half a character in a name', { name: 'Trough \ud83d' }, 'name'],
		['no quantity', { quantity: 0 }, 'quantity'],
		['a due date that is none', { dueDate: '2026-13-40' }, 'dueDate'],
		['an unknown field', { colour: 'red' }, 'colour']
	])('%s', async (_, change, field) => {
		const r = await planner.post('/api/jobs', { name: 'x', quantity: 1, family: { kind: 'open-trough', parameters: {} }, ...change });
		expect(r.status).toBe(400);
		expect(r.body.faults.map((f: { field: string }) => f.field)).toContain(field);
	});
	it('zero and negative sizes, and a sheet thicker than half its side', async () => {
		const make = (change: object) =>
			planner.post('/api/jobs', {
				name: 'x',
				quantity: 1,
				family: {
					kind: 'open-trough',
					parameters: {
						lengthMm: 240,
						widthMm: 140,
						depthMm: 60,
						thicknessMm: 1.5,
						material: '1.4301',
						body: 'u-body',
						rimFlangeMm: 0,
						bendRadiusMm: 2,
						...change
					}
				}
			});
		for (const change of [{ lengthMm: 0 }, { widthMm: -3 }, { thicknessMm: 12, depthMm: 15 }]) {
			const r = await make(change);
			expect(r.status).toBe(400);
			expect(r.body.faults[0].field).toMatch(/^family\.parameters\./);
			expect(r.body.faults[0].allowed).toMatch(/\d+ ?(mm)? to \d+|must|room|deep|bend/);
		}
	});
	it('not JSON, too deep, a prototype key, too large: each refused, none a crash', async () => {
		for (const body of ['{', '[]', '"x"', 'null', `{"name":${'['.repeat(400)}${']'.repeat(400)}}`, '{"__proto__":{"admin":true},"name":"x"}']) {
			const r = await planner.send('POST', '/api/jobs', body);
			expect(r.status).toBe(400);
			expect(r.body.faults.length).toBeGreaterThan(0);
			expect(JSON.stringify(r.body)).not.toMatch(/node_modules|at [A-Z]\w+\./);
		}
		const big = await planner.send('POST', '/api/jobs/import', ' '.repeat(4_500_000));
		expect(big.status).toBe(400);
		expect(big.body.faults[0].allowed).toMatch(/at most 4 MB/);
		const huge = await planner.send('POST', '/api/jobs/import', 'x'.repeat(50_000_000)).catch(() => ({ status: 413 }));
		expect([400, 413]).toContain(huge.status);
	});
	it('an id that is none is not found, and says nothing of the database', async () => {
		for (const id of ['x', "1' or '1'='1", '00000000-0000-4000-8000-000000000000'])
			expect((await planner.get(`/api/jobs/${encodeURIComponent(id)}`)).status).toBe(404);
	});
});

describe('the job file', () => {
	it('exported and imported again it is the same job', async () => {
		const job = await newJob(planner, 'Round trip');
		const out = await planner.get(`/api/jobs/${job}/export`);
		expect(out.headers.get('content-disposition')).toMatch(/Round-trip\.sarta\.json/);
		const back = await planner.send('POST', '/api/jobs/import?name=Came%20back', out.body);
		expect(back.status).toBe(201);
		expect((await planOf(back.body.job.id)).document).toEqual((await planOf(job)).document);
		expect(back.body.job.name).toBe('Came back');
	});
	it('a wrong one is refused whole with a list, and no job appears', async () => {
		const count = async () => (await planner.get('/api/jobs')).body.jobs.length;
		const before = await count();
		const out = (await planner.get(`/api/jobs/${await newJob(planner)}/export`)).body;
		out.plan.runs[0].toMm = 99_999;
		out.plan.version = 7;
		const r = await planner.post('/api/jobs/import', out);
		expect(r.status).toBe(400);
		expect(r.body.faults.map((f: { field: string }) => f.field)).toContain('plan.version');
		expect(await count()).toBe(before + 1);
	});
});

describe('what people type', () => {
	it('any printable character is taken, everywhere, and is text wherever it comes out', async () => {
		const name = '<b>Trough</b> & "lid" \'5 > 3\' \u{1f525} \u00e9';
		const job = await newJob(planner, name);
		const plan = await planOf(job);
		const document = structuredClone(plan.document);
		document.joints[0].name = '<script>alert(1)</script>';
		document.notes = 'first line\nsecond < line';
		const saved = await planner.send('PUT', `/api/jobs/${job}/plan`, { revision: plan.revision, version: plan.version, plan: document });
		expect(saved.status).toBe(200);
		const strip = await planner.get(`/api/jobs/${job}/strips/${document.joints[0].id}.svg`);
		expect(String(strip.body)).not.toContain('<script>');
		for (const sheet of ['run-sheet.pdf', 'fit-up-sheet.pdf', 'hold-sheet.pdf', 'marks-sheet.pdf', 'traveller.pdf', 'labels.pdf'])
			expect((await planner.get(`/api/jobs/${job}/${sheet}`)).status, sheet).toBe(200);
	});
	it('one event that cannot be taken is told by itself; those before and after it are kept', async () => {
		const job = await newJob(planner, 'Poisoned log');
		const draft = await planOf(job);
		await planner.post(`/api/jobs/${job}/issue`, { revision: draft.revision, version: draft.version });
		const [piece] = await piecesOf(job);
		const note = (text: string) => ({ ...event('note', 'check:film'), note: text });
		const bad = [note('bell \u0007 in it'), note('half \ud83d'), { ...event('note'), happenedAt: 'yesterday' }, 'no event at all'];
		const good = [event('started'), note('gap < 0.5 & > 0.1'), event('step-done', 'check:film')];
		const r = await welder.post(`/api/pieces/${piece}/events`, { events: [good[0], bad[0], good[1], bad[1], bad[2], bad[3], good[2]] });
		expect(r.status).toBe(200);
		expect(r.body.events.map((e: { clientId: string }) => e.clientId)).toEqual(good.map((e) => e.clientId));
		expect(r.body.events[1].note).toBe('gap < 0.5 & > 0.1');
		expect(r.body.refused.map((x: { clientId: string }) => x.clientId)).toEqual([
			...bad.slice(0, 3).map((e) => (e as { clientId: string }).clientId),
			''
		]);
		for (const x of r.body.refused) expect(x.message.length).toBeGreaterThan(5);
		expect(r.body.refused[0].message).toMatch(/note: must be text without control characters/);
		// put right, it goes in under its own name
		const again = await welder.post(`/api/pieces/${piece}/events`, { events: [{ ...(bad[0] as object), note: 'bell in it' }] });
		expect([again.body.refused, again.body.events.length]).toEqual([[], 4]);
	});
});

describe('issue, bench, measure, sign', () => {
	it('the whole way of one piece, with every record kept', async () => {
		const job = await newJob(planner, 'Bench trough');
		const draft = await planOf(job);
		const [piece] = await piecesOf(job);
		const early = await welder.post(`/api/pieces/${piece}/events`, { events: [event('started')] });
		expect([early.body.events.length, early.body.refused[0].message]).toEqual([0, 'No revision of this plan has been issued to the bench yet']);
		const issued = await planner.post(`/api/jobs/${job}/issue`, { revision: draft.revision, version: draft.version });
		expect(issued.body.state).toBe('issued');
		// a frozen plan stays as it is: a save opens the next revision, the database itself refuses a change
		const next = await planner.send('PUT', `/api/jobs/${job}/plan`, {
			revision: 1,
			version: issued.body.version,
			plan: { ...draft.document, interpassLimitC: 111 }
		});
		expect([next.body.revision, next.body.state]).toEqual([2, 'draft']);
		await expect(getDb().execute(sql`update plan_revisions set document = '{}' where id = ${issued.body.id}`)).rejects.toThrow();

		const notYet = await welder.post(`/api/pieces/${piece}/events`, { events: [event('step-done', 'x')] });
		expect([notYet.body.events.length, notYet.body.refused[0].message]).toEqual([0, expect.stringMatching(/has not been started/)]);
		const start = event('started');
		await welder.post(`/api/pieces/${piece}/events`, { events: [start, event('step-done', 'check:film')] });
		// the same send again, as after a dropped answer, adds nothing
		const log = await welder.post(`/api/pieces/${piece}/events`, { events: [start, event('note', 'check:film')] });
		expect(log.body.events.map((e: { kind: string }) => e.kind)).toEqual(['started', 'step-done', 'note']);
		expect(log.body.events[0].person).toBe('Test welder');
		for (const change of [sql`update bench_events set note = 'x'`, sql`delete from bench_events`, sql`truncate bench_events`])
			await expect(getDb().execute(change)).rejects.toThrow();

		const reading = {
			clientId: randomUUID(),
			feature: 'mouth-width',
			method: 'tape',
			moment: 'unclamped',
			posture: 'three-points',
			instrument: 'Tape',
			readings: [138.5]
		};
		const kept = await inspector.post(`/api/pieces/${piece}/measurements`, reading);
		expect(kept.body.measurement).toMatchObject({ value: -1.5, unit: 'mm', planRevisionId: issued.body.id });
		await inspector.post(`/api/pieces/${piece}/measurements`, reading);
		expect((await inspector.get(`/api/pieces/${piece}/measurements`)).body.measurements).toHaveLength(1);
		const wrong = await inspector.post(`/api/pieces/${piece}/measurements`, { ...reading, clientId: randomUUID(), method: 'grid' });
		expect(wrong.body.faults[0].field).toBe('method');
		// the driver cannot send a number that is none, so text stands for it here
		expect(
			(
				await inspector.send(
					'POST',
					`/api/pieces/${piece}/measurements`,
					JSON.stringify({ ...reading, clientId: randomUUID() }).replace('[138.5]', '[NaN]')
				)
			).status
		).toBe(400);

		const lesson = await planner.get(`/api/pieces/${piece}/learn`);
		expect(lesson.status).toBe(200);
		expect(lesson.body.settled.converged).toBe(true);
		// the log has no arc: taken as issued, and said
		expect(lesson.body.cautions.join(' ')).toContain('No arc of this piece is in its log');
		const adopted = await planner.post(`/api/pieces/${piece}/learn`);
		expect(adopted.status).toBe(201);
		expect((await planner.post(`/api/pieces/${piece}/learn`)).status).toBe(422); // nothing new the second time
		// withdrawn with a reason: worked out anew without it, kept beside, and free to be learned from again
		const lessonId = adopted.body.factors.id as string;
		const csv = async () => String((await inspector.get('/api/learned.csv')).body);
		expect(await csv()).toContain(piece);
		expect((await welder.post(`/api/lessons/${lessonId}/withdraw`, { why: 'x' })).status).toBe(403);
		expect((await planner.post(`/api/lessons/${lessonId}/withdraw`, { why: '' })).status).toBe(400);
		expect((await planner.post(`/api/lessons/${lessonId}/withdraw`, { why: 'Tape was bent' })).status).toBe(200);
		expect((await planner.post(`/api/lessons/${lessonId}/withdraw`, { why: 'again' })).status).toBe(422);
		expect((await planner.post(`/api/lessons/${randomUUID()}/withdraw`, { why: 'none' })).status).toBe(404);
		expect(await csv()).not.toContain(piece);
		const [row] = (await getDb().execute(sql`select archived_why from shop_factors where id = ${lessonId}`)).rows;
		expect(row).toEqual({ archived_why: 'Tape was bent' });
		const anew = await planner.get(`/api/pieces/${piece}/learn`);
		expect(anew.body.fresh).toHaveLength(1);
		expect(anew.body.history.map((h: { withdrawn?: string }) => h.withdrawn)).toContain('withdrawn by Test planner: Tape was bent');
		expect((await planner.post(`/api/pieces/${piece}/learn`)).status).toBe(201);

		expect((await welder.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'x' })).status).toBe(403);
		await weldOut(welder, job, piece);
		await readAll(inspector, job, piece);
		expect((await inspector.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Seen and measured.' })).status).toBe(201);
		expect((await inspector.post(`/api/pieces/${piece}/sign`, { accepted: true, statement: 'Again.' })).status).toBe(422);
		expect((await inspector.post(`/api/pieces/${piece}/measurements`, { ...reading, clientId: randomUUID() })).status).toBe(422);
		for (const [who, path] of [
			[planner, `/api/jobs/${job}/run-sheet.pdf`],
			[welder, `/api/jobs/${job}/marks-sheet.pdf`],
			[inspector, `/api/pieces/${piece}/record.pdf`]
		] as const) {
			const pdf = await who.get(path);
			expect(pdf.headers.get('content-type')).toBe('application/pdf');
			expect(String(pdf.body).startsWith('%PDF')).toBe(true);
		}
	});
});

describe('signing in', () => {
	it('PINs are argon2id hashes and tokens are not stored', async () => {
		const rows = (await getDb().execute(sql`select pin_hash from people`)).rows as { pin_hash: string }[];
		expect(rows.every((r) => r.pin_hash.startsWith('$argon2id$'))).toBe(true);
		const r = await fetch(`${process.env.SARTA_URL}/api/sign-in`, {
			method: 'POST',
			headers: { origin: process.env.SARTA_URL!, 'content-type': 'application/json' },
			body: JSON.stringify({ name: 'Test planner', pin: TEST_PIN })
		});
		const cookie = r.headers.get('set-cookie')!;
		expect(cookie).toMatch(/HttpOnly/i);
		expect(cookie).toMatch(/SameSite=Strict/i);
		const token = /sarta_session=([^;]+)/.exec(cookie)![1];
		expect((await getDb().execute(sql`select 1 from sessions where token_hash = ${token}`)).rows).toHaveLength(0);
	});
	it('signing out ends the session on the server', async () => {
		const c = await personOf('welder');
		expect((await c.get('/api/jobs')).status).toBe(200);
		const other = c.copy(); // a stolen cookie
		await c.post('/api/sign-out');
		expect((await other.get('/api/jobs')).status).toBe(401);
	});
});
