/** What the program's own role may not do in its database, whoever asks it to; backups; upgrades. Against real PostgreSQL. */
import { execFile, execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { cpSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { sql } from 'drizzle-orm';
import { strFromU8, unzipSync } from 'fflate';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDb, getDb } from '$store/database';
import { shopSoFar } from '$store/firstHour';
import { RIGHTS } from '$store/grants';
import { migrateTo } from '$store/migration';
import { BASE, Client, newJob, personOf, readAll, readingOf, startedPiece, tap, weldOut } from './client';

const OWNER = process.env.DATABASE_OWNER_URL ?? '';
const APP = process.env.DATABASE_URL ?? '';
const BUILD = process.env.SARTA_NODE_BUILD_DIR || 'build-node';
const folder = () => mkdtempSync(path.join(os.tmpdir(), 'sarta-test-'));
/** As bin/sarta runs it. */
const admin = async (...args: string[]) => (await promisify(execFile)('node', [path.join(BUILD, 'admin.js'), ...args])).stdout;

let planner: Client;
let welder: Client;
let inspector: Client;
beforeAll(async () => {
	[planner, welder, inspector] = [await personOf('planner'), await personOf('welder'), await personOf('inspector')];
});
afterAll(closeDb);

/** One row of each record: a signed piece with a withdrawn reading. */
async function signedPiece(name: string) {
	const made = await startedPiece(planner, welder, name);
	const m = (await inspector.post(`/api/pieces/${made.piece}/measurements`, await readingOf(inspector, made.job, 'mouth-width'))).body.measurement;
	await inspector.send('PATCH', `/api/pieces/${made.piece}/measurements/${m.id}`, { why: 'slipped' });
	await weldOut(welder, made.job, made.piece);
	await readAll(inspector, made.job, made.piece);
	const r = await inspector.post(`/api/pieces/${made.piece}/sign`, { accepted: true, statement: 'Seen.' });
	expect(r.status).toBe(201);
	return made;
}

describe('a new shop', () => {
	it('is led by what it holds: a piece that was signed has come through people, job and issue; a bar is seen when it is written down', async () => {
		await signedPiece('First of the shop');
		expect(await shopSoFar(getDb())).toMatchObject({ welder: true, inspector: true, job: true, issued: true });
		await planner.post('/api/registers', {
			kind: 'bar',
			item: { name: `Bar ${randomUUID()}`, material: 'copper', lengthMm: 500, widthMm: 40, thicknessMm: 10 }
		});
		expect((await shopSoFar(getDb())).tools).toBe(true);
	});
});

describe('the program’s own role', () => {
	const refused = async (change: string) => {
		try {
			await getDb().execute(sql.raw(change));
		} catch (e) {
			return String((e as { cause?: Error }).cause?.message ?? e);
		}
		return 'DONE';
	};
	it('is another one than the owner of the tables', () => {
		expect(new URL(APP).username).not.toBe(new URL(OWNER).username);
	});
	it('cannot change or take away what is a record, nor the triggers over it, nor itself', async () => {
		await signedPiece('Records');
		for (const table of [
			'bench_events',
			'bench_stamps',
			'signatures',
			'audit',
			'procedure_versions',
			'imported_records',
			'measurements',
			'photographs'
		])
			for (const change of [
				`delete from ${table}`,
				`truncate ${table}`,
				`drop table ${table}`,
				`alter table ${table} disable trigger all`,
				`alter table ${table} owner to current_user`
			])
				expect(await refused(change), change).toMatch(/permission denied|must be owner/);
		for (const change of [
			`update bench_events set note = 'x'`,
			`update signatures set accepted = true`,
			`update audit set kind = 'x'`,
			`update measurements set value = 0`,
			`delete from plan_revisions`,
			`alter table plan_revisions disable trigger all`,
			`set session_replication_role = replica`,
			`alter role current_user superuser`,
			`drop function refuse_change cascade`,
			`create or replace function refuse_change() returns trigger language plpgsql as 'begin return new; end'`
		])
			expect(await refused(change), change).toMatch(/permission denied|must be owner|must be superuser|not owner/);
		// a grant by who has nothing to grant is a warning only: what counts is that nothing came of it
		await refused('grant delete on audit to current_user');
		expect(await refused('delete from audit')).toMatch(/permission denied/);
		// what it may touch is held by triggers
		expect(await refused(`update plan_revisions set document = '{}' where state = 'issued'`)).toMatch(/issued and frozen/);
		expect(await refused(`update measurements set withdrawn_why = 'another reason' where withdrawn_at is not null`)).toMatch(/a reading is a record/);
	});
	it('has its rights named for every table there is', async () => {
		const tables = (await getDb().execute(sql`select tablename from pg_tables where schemaname = 'public' order by 1`)).rows.map((r) => r.tablename);
		expect(Object.keys(RIGHTS).sort()).toEqual(tables);
	});
});

/** An empty cluster of its own, as on a new machine. */
function cluster() {
	const dir = folder();
	const sh = (cmd: string) =>
		execFileSync('scripts/pg.sh', [cmd, dir], { encoding: 'utf8', env: { ...process.env, PG_OPTS: '-c fsync=off' } }).trim();
	const owner = sh('start');
	return { owner, app: sh('app-url'), destroy: () => void sh('destroy') };
}
const rowsOf = async (url: string, tables: readonly string[]) => {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	const out: Record<string, string> = {};
	for (const t of tables)
		out[t] = (await client.query(`select md5(coalesce(string_agg(md5(t::text), '' order by t::text), '')) as m from ${t} t`)).rows[0].m;
	await client.end();
	return out;
};

describe('backup and restore', () => {
	it(
		'taken with work going on, restored into an empty cluster: every acknowledged tap is there, and the piece is finished there',
		{ timeout: 240_000 },
		async () => {
			await signedPiece('Before the backup');
			const { job, piece } = await startedPiece(planner, welder, 'Under the backup');
			const acknowledged: string[] = [];
			let isDone = false;
			const work = (async () => {
				for (let i = 0; !isDone; i++) {
					const e = tap('note', 'a', { note: `n${i}` });
					if ((await welder.post(`/api/pieces/${piece}/events`, { events: [e] })).status === 200) acknowledged.push(e.clientId);
				}
			})();
			const file = path.join(folder(), 'shop.backup');
			const before = acknowledged.length;
			await admin('backup', file);
			isDone = true;
			await work;
			const quiet = path.join(folder(), 'quiet.backup');
			await admin('backup', quiet);
			const tables = Object.keys(RIGHTS).filter((t) => t !== 'audit' && t !== 'tasks');
			const here = await rowsOf(OWNER, tables);

			const other = cluster();
			try {
				const env = { ...process.env, DATABASE_URL: other.app, DATABASE_OWNER_URL: other.owner };
				const there = async (...args: string[]) => (await promisify(execFile)('node', [path.join(BUILD, 'admin.js'), ...args], { env })).stdout;
				execFileSync('node', [path.join(BUILD, 'migrate.js')], { env });
				await there('restore', file);
				const first = new pg.Client({ connectionString: other.app });
				await first.connect();
				const events = (await first.query(`select client_id, seq from bench_events where piece_id = $1 and kind = 'note' order by seq`, [piece]))
					.rows;
				await first.end();
				// one moment of the work: what had been acknowledged when it began is in it, in order and without holes
				expect(events.length).toBeGreaterThanOrEqual(before);
				expect(events.map((e) => e.client_id)).toEqual(acknowledged.slice(0, events.length));
				expect(await there('restore', quiet)).toMatch(/is kept as the database “sarta_before_/);
				expect(await rowsOf(other.owner, tables)).toEqual(here);
				// and there the rights hold as here
				const again = new pg.Client({ connectionString: other.app });
				await again.connect();
				await expect(again.query('delete from bench_events')).rejects.toThrow(/permission denied/);
				await again.query(`insert into bench_events (client_id, piece_id, plan_revision_id, kind, happened_at, person_id)
				select gen_random_uuid(), piece_id, plan_revision_id, 'finished', now(), person_id from bench_events where piece_id = '${piece}' limit 1`);
				await again.end();
				// a file that is cut short, or none of ours, changes nothing
				const short = path.join(folder(), 'short.backup');
				writeFileSync(short, readFileSync(quiet).subarray(0, 3000));
				await expect(there('restore', short)).rejects.toThrow(/pg_restore failed|is no backup/);
				expect((await rowsOf(other.owner, ['jobs'])).jobs).toBe(here.jobs);
			} finally {
				other.destroy();
			}
			expect(job).toBeTruthy();
		}
	);
	it('is refused while somebody is connected, and leaves everything as it was', async () => {
		const file = path.join(folder(), 'x.backup');
		await admin('backup', file);
		await expect(admin('restore', file)).rejects.toThrow(/still connected/);
		await expect(admin('backup', file)).rejects.toThrow(/writes over nothing/);
	});
	it('the whole shop goes out as open files, one a job', async () => {
		const { job } = await signedPiece('Open files');
		const out = path.join(folder(), 'everything');
		await admin('export', out);
		const files = readdirSync(out);
		expect(files).toEqual(expect.arrayContaining(['audit.json', 'factors.json', 'library.json', 'people.json']));
		const number = (await planner.get(`/api/jobs/${job}`)).body.job.number;
		const record = JSON.parse(readFileSync(path.join(out, `job-${number}.sarta-record.json`), 'utf8'));
		expect(record.pieces[0]).toMatchObject({ state: 'handed-over', signature: { accepted: true } });
		expect(record.pieces[0].readings.some((r: { withdrawnWhy?: string }) => r.withdrawnWhy === 'slipped')).toBe(true);
		expect(readFileSync(path.join(out, 'people.json'), 'utf8')).not.toMatch(/argon2/);
		await expect(admin('export', out)).rejects.toThrow(/not empty/);
	});
	it('a locked name is let in again from the command line', async () => {
		const name = `Locked ${randomUUID().slice(0, 6)}`;
		const boss = await personOf('admin');
		await boss.post('/api/people', { name, pin: '7391', roles: ['welder'] });
		for (let i = 0; i < 6; i++) await new Client().post('/api/sign-in', { name, pin: '9265' });
		expect((await new Client().post('/api/sign-in', { name, pin: '7391' })).status).toBe(429);
		expect(await admin('admin', 'unlock', name)).toMatch(/the lock is off/);
		expect((await new Client().post('/api/sign-in', { name, pin: '7391' })).status).toBe(200);
	});
});

describe('the record of a job as a file', () => {
	it('goes out whole and comes in as a job with its history, which nobody changes', async () => {
		const { job, piece } = await signedPiece('Travelling record');
		const out = await planner.get(`/api/jobs/${job}/record`);
		expect(out.headers.get('content-disposition')).toMatch(/Travelling-record\.sarta-record\.json/);
		expect(out.body.pieces[0].events.length).toBe((await planner.get(`/api/pieces/${piece}/events`)).body.events.length);
		const back = await planner.send('POST', '/api/jobs/import?name=Came%20with%20history', out.body);
		expect(back.status).toBe(201);
		const copy = back.body.job.id;
		expect((await planner.get(`/api/jobs/${copy}/plan`)).body.plan).toMatchObject({ revision: 1, state: 'draft' });
		const page = await planner.get(`/jobs/${copy}/history`);
		expect(page.status).toBe(200);
		expect(String(page.body)).toContain('Test inspector');
		// written out again it is the same record as it came
		const kept = (await getDb().execute(sql`select record from imported_records where job_id = ${copy}`)).rows[0].record as { pieces: unknown };
		expect(kept.pieces).toEqual(out.body.pieces);
	});
	it('goes out with everything else in one archive of open files, for an admin only', async () => {
		const { job } = await signedPiece('In the archive');
		const number = (await planner.get(`/api/jobs/${job}`)).body.job.number as string;
		expect((await planner.get('/api/everything')).status).toBe(403);
		const r = await fetch(`${BASE}/api/everything`, { headers: (await personOf('admin')).session() });
		expect([r.status, r.headers.get('content-type'), r.headers.get('cache-control')]).toEqual([200, 'application/zip', 'no-store']);
		const files = unzipSync(new Uint8Array(await r.arrayBuffer()));
		const read = (name: string) => JSON.parse(strFromU8(files[name])) as Record<string, unknown>;
		const alone = (await planner.get(`/api/jobs/${job}/record`)).body;
		expect(read(`job-${number}.sarta-record.json`)).toEqual({ ...alone, writtenAt: expect.any(String) as string });
		expect(Object.keys(files)).toEqual(
			expect.arrayContaining(['people.json', 'library.json', 'factors.json', 'trials.json', 'practice.json', 'audit.json'])
		);
		const jobs = (await getDb().execute(sql`select count(*)::int as n from jobs`)).rows[0].n as number;
		expect(Object.keys(files).filter((f) => f.startsWith('job-'))).toHaveLength(jobs);
		// nothing by which somebody else could sign in
		expect(strFromU8(files['people.json'])).not.toMatch(/hash|argon/i);
	});
	it('is refused whole, with every fault by its name', async () => {
		const out = (await planner.get(`/api/jobs/${await newJob(planner, 'Spoilt record')}/record`)).body;
		const count = async () => (await planner.get('/api/jobs')).body.jobs.length;
		const before = await count();
		out.revisions[0].plan.runs[0].toMm = 3000;
		out.pieces[0].revision = 7;
		const r = await planner.post('/api/jobs/import', out);
		expect(r.status).toBe(400);
		const fields = r.body.faults.map((f: { field: string }) => f.field);
		expect(fields).toContain('pieces[0].revision');
		expect(fields.some((f: string) => f.startsWith('revisions[0].plan.runs'))).toBe(true);
		out.pieces[0].surprise = 1;
		expect((await planner.post('/api/jobs/import', out)).body.faults[0].field).toBe('pieces[0].surprise');
		expect(await count()).toBe(before);
	});
});

describe('upgrades', () => {
	it(
		'two starts at once migrate once; a database newer than the program is refused with a sentence, and nothing is changed',
		{ timeout: 120_000 },
		async () => {
			const other = cluster();
			try {
				const migrations = path.resolve('store/migrations');
				await Promise.all([1, 2, 3].map(() => migrateTo(other.owner, other.app, migrations)));
				const client = new pg.Client({ connectionString: other.owner });
				await client.connect();
				const count = async () => Number((await client.query('select count(*) from drizzle.__drizzle_migrations')).rows[0].count);
				const journal = JSON.parse(readFileSync(path.join(migrations, 'meta/_journal.json'), 'utf8'));
				expect(await count()).toBe(journal.entries.length);
				// a program that knows one migration less
				const older = folder();
				cpSync(migrations, older, { recursive: true });
				writeFileSync(path.join(older, 'meta/_journal.json'), JSON.stringify({ ...journal, entries: journal.entries.slice(0, -1) }));
				await expect(migrateTo(other.owner, other.app, older)).rejects.toThrow(/made by a newer Sarta.*Nothing was changed/);
				expect(await count()).toBe(journal.entries.length);
				await client.end();
			} finally {
				other.destroy();
			}
		}
	);
});
