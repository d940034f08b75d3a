/** Backups by PostgreSQL's own tools: one file, taken from a running database at one moment, proved readable before it counts. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import pg from 'pg';

export class BackupError extends Error {}

/** What a tool says of itself while it works, and how far it is. @param done tables finished; @param of how many, where known */
export type Progress = (table: string, done: number, of?: number) => void;

/** Password and address reach the tool by its environment: a command line can be read by every user of the machine. */
function environment(url: string): NodeJS.ProcessEnv {
	const u = new URL(url);
	return {
		...process.env,
		PGHOST: u.hostname,
		PGPORT: u.port || '5432',
		PGUSER: decodeURIComponent(u.username),
		PGPASSWORD: decodeURIComponent(u.password),
		PGDATABASE: u.pathname.slice(1)
	};
}

/** Runs a tool to its end. @throws BackupError with the tool's last words */
function run(tool: string, args: string[], url: string | undefined, onLine: (line: string) => void = () => {}): Promise<string> {
	return new Promise((resolve, reject) => {
		const child = spawn(tool, args, { env: url ? environment(url) : process.env, stdio: ['ignore', 'pipe', 'pipe'] });
		let out = '';
		let last = '';
		child.stdout.setEncoding('utf8').on('data', (d: string) => (out += d));
		child.stderr.setEncoding('utf8').on('data', (d: string) => {
			for (const line of d.split('\n')) if (line.trim()) onLine((last = line.trim()));
		});
		child.on('error', (e) => reject(new BackupError(`${tool} cannot be run (${e.message}). Debian: apt-get install postgresql-client`)));
		child.on('close', (code) => (code === 0 ? resolve(out) : reject(new BackupError(`${tool} failed: ${last}`))));
	});
}

/** Tables whose rows a file holds. @throws BackupError where it is no backup, or cut short */
async function tablesIn(file: string): Promise<string[]> {
	const list = await run('pg_restore', ['--list', file], undefined);
	const tables = [...list.matchAll(/TABLE DATA (\S+) (\S+)/g)].map((m) => `${m[1]}.${m[2]}`);
	if (!tables.includes('public.jobs') || !tables.includes('public.bench_events')) throw new BackupError(`${file} is no backup of Sarta`);
	return tables;
}

/**
 * Writes one file with everything in it but the queue, whose entries are made again from the tasks. Work goes on meanwhile.
 * @returns its size, bytes, and how many tables are in it
 */
export async function backup(url: string, file: string, onProgress: Progress = () => {}): Promise<{ bytes: number; tables: number }> {
	if (existsSync(file)) throw new BackupError(`${file} is there already: a backup writes over nothing`);
	await mkdir(path.dirname(path.resolve(file)), { recursive: true });
	const part = `${file}.part`;
	await rm(part, { force: true });
	try {
		let done = 0;
		await run(
			'pg_dump',
			['--format=custom', '--no-owner', '--no-privileges', '--exclude-schema=pgboss', '--verbose', `--file=${part}`],
			url,
			(line) => {
				const table = /dumping contents of table "?([^"]+)"?/.exec(line)?.[1];
				if (table) onProgress(table, ++done);
			}
		);
		const tables = (await tablesIn(part)).length;
		const handle = await open(part, 'r+');
		await handle.sync();
		await handle.close();
		const { bytes } = { bytes: (await stat(part)).size };
		await rename(part, file);
		return { bytes, tables };
	} catch (e) {
		await rm(part, { force: true });
		throw e;
	}
}

/**
 * Puts a backup into a database of its own beside the one in use, brings it to this program's version, and only then lets the two change
 * places; the one that was in use is kept under another name. Whatever fails before that changes nothing.
 * @param url of the owner; nobody else may be connected
 * @returns the name under which the former database is kept
 */
export async function restore(url: string, file: string, prepare: (url: string) => Promise<void>, onProgress: Progress = () => {}): Promise<string> {
	if (!existsSync(file)) throw new BackupError(`${file} is not there`);
	const tables = await tablesIn(file);
	const name = new URL(url).pathname.slice(1);
	const fresh = `${name}_restore`;
	const former = `${name}_before_${new Date().toISOString().replace(/\D/g, '').slice(0, 17)}`;
	const named = (database: string) => {
		const u = new URL(url);
		u.pathname = `/${database}`;
		return u.href;
	};
	const id = pg.escapeIdentifier;
	const server = new pg.Client({ connectionString: named('postgres') });
	await server.connect();
	try {
		await server.query(`drop database if exists ${id(fresh)}`);
		await server.query(`create database ${id(fresh)}`);
		let done = 0;
		await run(
			'pg_restore',
			['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction', '--verbose', `--dbname=${fresh}`, file],
			named(fresh),
			(line) => {
				const table = /processing data for table "?([^"]+)"?/.exec(line)?.[1];
				if (table) onProgress(table, ++done, tables.length);
			}
		);
		await prepare(named(fresh));
		const { rows } = await server.query<{ n: string }>('select count(*) as n from pg_stat_activity where datname = $1', [name]);
		if (Number(rows[0].n)) throw new BackupError('Sarta is still connected to its database: stop it first, then restore');
		await server.query(`alter database ${id(name)} rename to ${id(former)}`);
		await server.query(`alter database ${id(fresh)} rename to ${id(name)}`);
		return former;
	} catch (e) {
		await server.query(`drop database if exists ${id(fresh)}`).catch(() => {});
		throw e;
	} finally {
		await server.end();
	}
}

const NIGHTLY = /^sarta-\d{8}-\d{6}\.backup$/;
export const nightlyName = (at: Date) => `sarta-${at.toISOString().slice(0, 19).replace(/[-:]/g, '').replace('T', '-')}.backup`;

/** Of the backups made by themselves the newest are kept; what a person has put there stays. @returns names taken away */
export async function keepNewest(folder: string, count: number): Promise<string[]> {
	const made = (await readdir(folder)).filter((f) => NIGHTLY.test(f)).sort();
	const old = made.slice(0, Math.max(0, made.length - count));
	for (const f of old) await rm(path.join(folder, f));
	return old;
}
