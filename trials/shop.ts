/** A shop of its own for a trial: bin/start in a temporary folder, with people who sign in as anybody does. Loopback only. */
import { spawn, execFileSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { Visitor } from '../standins/visitor';
import { hashPin } from '../store/auth';

export const PIN = '48271936';
/** Carried by every process of this trial: none but these are ever killed. */
const MARK = 'SARTA_TRIAL';

const freePort = () =>
	new Promise<number>((done) => {
		const s = createServer().listen(0, '127.0.0.1', () => {
			const { port } = s.address() as { port: number };
			s.close(() => done(port));
		});
	});
export const sleep = (ms: number) => new Promise((go) => setTimeout(go, ms));

const TROUGH = {
	kind: 'open-trough',
	parameters: { lengthMm: 240, widthMm: 140, depthMm: 60, thicknessMm: 1.5, material: '1.4301', body: 'u-body', rimFlangeMm: 0, bendRadiusMm: 2 }
};

type Kind = 'server' | 'worker' | 'database';

export class Shop {
	private constructor(
		readonly base: string,
		readonly database: string,
		private readonly folder: string,
		private readonly start: ChildProcess,
		private readonly mark: string,
		private readonly output: string[]
	) {}

	static async open(): Promise<Shop> {
		const folder = mkdtempSync(path.join(os.tmpdir(), 'sarta-trial-'));
		const port = await freePort();
		const mark = randomUUID();
		const { DATABASE_URL: _, DATABASE_OWNER_URL: __, ORIGIN: ___, ...inherited } = process.env;
		const env = {
			...inherited,
			SARTA_DATA: folder,
			PORT: String(port),
			HOST: '127.0.0.1',
			[MARK]: mark,
			PG_OPTS: '-c fsync=off',
			LOG_LEVEL: 'error'
		};
		const start = spawn('bin/start', ['--no-demo'], { env, stdio: ['ignore', 'pipe', 'pipe'], detached: true });
		const output: string[] = [];
		for (const s of [start.stdout, start.stderr]) s.setEncoding('utf8').on('data', (d: string) => output.push(d));
		const base = `http://127.0.0.1:${port}`;
		for (let i = 0; !output.join('').includes('Sarta runs at'); i++) {
			if (i > 1200 || start.exitCode !== null) throw new Error(`The shop did not open:\n${output.join('')}`);
			await sleep(250);
		}
		const database = execFileSync('scripts/pg.sh', ['app-url', path.join(folder, 'postgres')], { encoding: 'utf8' }).trim();
		return new Shop(base, database, folder, start, mark, output);
	}
	/** People of a role who are signed in. */
	async people(count: number, roles: string[], name: string): Promise<{ name: string; visitor: Visitor }[]> {
		const hash = await hashPin(PIN);
		const names = Array.from({ length: count }, (_, i) => `${name} ${i + 1}`);
		await this.query('insert into people (name, pin_hash, roles) select n, $2, $3::role[] from unnest($1::text[]) n', [names, hash, roles]);
		const out = [];
		for (const n of names) {
			const visitor = new Visitor(this.base);
			const r = await visitor.post('/api/sign-in', { name: n, pin: PIN });
			if (r.status !== 200) throw new Error(`${n} cannot sign in: ${JSON.stringify(r.body)}`);
			out.push({ name: n, visitor });
		}
		return out;
	}
	async query<T extends pg.QueryResultRow>(text: string, values: unknown[] = []): Promise<T[]> {
		const client = new pg.Client({ connectionString: this.database });
		client.on('error', () => {});
		await client.connect();
		try {
			return (await client.query<T>(text, values)).rows;
		} finally {
			await client.end().catch(() => {});
		}
	}
	/** A job issued to the bench, and its pieces: a small trough unless another family is named. */
	async issuedJob(planner: Visitor, name: string, quantity: number, family: object = TROUGH): Promise<{ job: string; pieces: string[] }> {
		const made = await planner.post('/api/jobs', { name, quantity, family });
		if (made.status !== 201) throw new Error(`not made: ${JSON.stringify(made.body)}`);
		const job = made.body.job.id as string;
		const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
		const issued = await planner.post(`/api/jobs/${job}/issue`, { revision: plan.revision, version: plan.version });
		if (issued.status !== 200) throw new Error(`not issued: ${JSON.stringify(issued.body)}`);
		const rows = await this.query<{ id: string }>('select id from pieces where job_id = $1 order by serial', [job]);
		return { job, pieces: rows.map((r) => r.id) };
	}
	/** How often one of its processes has ended and was started again. */
	get restarts(): number {
		return this.output.join('').split('ended and is started again').length - 1;
	}
	/** The process of a kind, now. */
	pid(kind: Kind): number | undefined {
		const wanted = { server: /^node\0(?!.*worker\.js)[^\0]*build[^\0]*\0$/, worker: /worker\.js\0$/, database: /postgres\0-D\0/ }[kind];
		for (const entry of readdirSync('/proc').filter((d) => /^\d+$/.test(d))) {
			try {
				const command = readFileSync(`/proc/${entry}/cmdline`, 'utf8');
				if (wanted.test(command) && (kind === 'database' ? command.includes(this.cluster()) : this.isOurs(entry))) return Number(entry);
			} catch {
				// gone meanwhile
			}
		}
		return undefined;
	}
	private isOurs = (pid: string) => readFileSync(`/proc/${pid}/environ`, 'utf8').includes(this.mark);
	/** Where the cluster's files lie: as root not always in the folder itself. */
	private cluster = () => {
		const dir = path.join(this.folder, 'postgres');
		const home = `/var/tmp/sarta-pg-${execFileSync('sha1sum', { input: dir, encoding: 'utf8' }).slice(0, 12)}`;
		return readdirSync('/var/tmp').includes(path.basename(home)) ? home : dir;
	};
	/** Hard, as the power would. @returns whether there was one */
	kill(kind: Kind): boolean {
		const pid = this.pid(kind);
		if (pid === undefined) return false;
		process.kill(pid, 'SIGKILL');
		return true;
	}
	/** How long until a page that needs the database is answered again, ms. */
	async until(visitor: Visitor, most = 30_000): Promise<number> {
		const began = Date.now();
		while (Date.now() - began < most) {
			if ((await visitor.get('/api/jobs')).status === 200) return Date.now() - began;
			await sleep(50);
		}
		throw new Error(`not back after ${most} ms:\n${this.said()}`);
	}
	/** CPU that the server's own thread has used, ms to the microsecond; its helpers are not in it. */
	cpuMs(): number {
		const pid = this.pid('server')!;
		return this.cpuOf(pid);
	}
	/** The same of a server whose number is known, without looking for it. */
	cpuOf = (pid: number) => Number(readFileSync(`/proc/${pid}/task/${pid}/schedstat`, 'utf8').split(' ')[0]) / 1e6;
	/** What a second bin/start of the same folder says. */
	startAgain = () =>
		execFileSync('bin/start', ['--no-demo'], { encoding: 'utf8', env: { ...process.env, DATABASE_URL: '', SARTA_DATA: this.folder } });
	said = () => this.output.join('').slice(-2000);
	async close() {
		const ended = new Promise((go) => this.start.once('exit', go));
		process.kill(this.start.pid!, 'SIGTERM');
		await Promise.race([ended, sleep(20_000)]);
		execFileSync('scripts/pg.sh', ['destroy', path.join(this.folder, 'postgres')]);
		rmSync(this.folder, { recursive: true, force: true });
	}
}

/** Sorted, then the share: 0.95 is the value that nineteen in twenty stay under. */
export const percentile = (values: readonly number[], share: number) =>
	[...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))];
/** The same dice for the same seed. */
export function dice(seed: number): () => number {
	let s = seed >>> 0;
	return () => {
		s = (s + 0x6d2b79f5) >>> 0;
		let t = Math.imul(s ^ (s >>> 15), 1 | s);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}
