/** A signed-in person at the running server, over plain HTTP as a browser would. bin/test starts the server and names it. */
import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { getDb } from '$store/database';
import { addPerson, listPeople } from '$store/library';
import type { Role } from '$store/auth';

export const BASE = process.env.SARTA_URL ?? '';
if (!BASE || !process.env.DATABASE_URL) throw new Error('These tests need the running server: use bin/test');

export interface Reply {
	status: number;
	// eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests look into answers of many shapes
	body: any;
	headers: Headers;
}

export class Client {
	private cookie = '';
	async send(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Reply> {
		const r = await fetch(BASE + path, {
			method,
			redirect: 'manual',
			headers: {
				origin: BASE,
				...(body === undefined ? {} : { 'content-type': 'application/json' }),
				...(this.cookie ? { cookie: this.cookie } : {}),
				...headers
			},
			body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body)
		});
		const set = r.headers.get('set-cookie');
		if (set) this.cookie = set.split(';')[0];
		const text = await r.text();
		let parsed: unknown = text;
		try {
			parsed = JSON.parse(text);
		} catch {
			// a page or a file
		}
		return { status: r.status, body: parsed, headers: r.headers };
	}
	get = (path: string) => this.send('GET', path);
	post = (path: string, body: unknown = {}) => this.send('POST', path, body);
}

/** One person of each role, made once for all the tests of a run. */
export async function personOf(role: Role): Promise<Client> {
	const name = `Test ${role}`;
	const people = await listPeople(getDb());
	if (!people.some((p) => p.name === name)) await addPerson(getDb(), name, '4321', [role]);
	const c = new Client();
	const r = await c.post('/api/sign-in', { name, pin: '4321' });
	if (r.status !== 200) throw new Error(`sign-in of ${name} failed: ${JSON.stringify(r.body)}`);
	return c;
}

export const TROUGH = {
	kind: 'open-trough',
	parameters: { lengthMm: 240, widthMm: 140, depthMm: 60, thicknessMm: 1.5, material: '1.4301', body: 'u-body', rimFlangeMm: 0, bendRadiusMm: 2 }
};

export async function newJob(c: Client, name = 'Contract trough'): Promise<string> {
	const r = await c.post('/api/jobs', { name, quantity: 2, family: TROUGH });
	if (r.status !== 201) throw new Error(JSON.stringify(r.body));
	return r.body.job.id;
}

/** The pieces of a job, by serial. */
export const piecesOf = async (job: string) =>
	(await getDb().execute(sql`select id from pieces where job_id = ${job} order by serial`)).rows.map((r) => r.id as string);

/** A new job, issued, with its first piece begun at the bench. */
export async function startedPiece(planner: Client, welder: Client, name: string) {
	const job = await newJob(planner, name);
	const { plan } = (await planner.get(`/api/jobs/${job}/plan`)).body;
	await planner.post(`/api/jobs/${job}/issue`, { revision: plan.revision, version: plan.version });
	const [piece, other] = await piecesOf(job);
	const r = await welder.post(`/api/pieces/${piece}/events`, {
		events: [{ clientId: randomUUID(), kind: 'started', happenedAt: new Date().toISOString() }]
	});
	if (r.status !== 200 && r.status !== 201) throw new Error(JSON.stringify(r.body));
	return { job, piece, other, settings: plan.document.settings[0] as Record<string, unknown> };
}
