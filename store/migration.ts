/** Brings a database to this program's version: once, however many start at the same time, and never back. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { grantRights } from './grants';

/** Held while one program migrates; any number will do, it is ours alone. */
const LOCK = 0x5a47a;

export class NewerDatabaseError extends Error {
	constructor(database: Date, program: Date) {
		const day = (d: Date) => d.toISOString().slice(0, 10);
		super(
			`This database was made by a newer Sarta (its tables are of ${day(database)}, this program knows those up to ${day(program)}). ` +
				'Nothing was changed. Start the newer program, or restore a backup that was made with this one.'
		);
		this.name = 'NewerDatabaseError';
	}
}

interface Journal {
	entries: { when: number }[];
}

/**
 * @param url of the owner; @param appUrl what the program itself connects with: where that is another role, its rights are given anew
 * @throws NewerDatabaseError
 */
export async function migrateTo(url: string, appUrl: string, folder: string) {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	try {
		await client.query('select pg_advisory_lock($1)', [LOCK]);
		const journal = JSON.parse(readFileSync(path.join(folder, 'meta/_journal.json'), 'utf8')) as Journal;
		const newest = Math.max(...journal.entries.map((e) => e.when));
		const has = await newestIn(client);
		if (has > newest) throw new NewerDatabaseError(new Date(has), new Date(newest));
		await migrate(drizzle(client), { migrationsFolder: folder });
		const role = decodeURIComponent(new URL(appUrl).username);
		if (role && role !== decodeURIComponent(new URL(url).username)) await grantRights(client, role);
	} finally {
		await client.end();
	}
}

/** When the newest migration of a database was written, ms; 0 for an empty one. */
async function newestIn(client: pg.Client): Promise<number> {
	const table = await client.query<{ t: string | null }>(`select to_regclass('drizzle.__drizzle_migrations') as t`);
	if (!table.rows[0].t) return 0;
	const { rows } = await client.query<{ at: string | null }>('select max(created_at) as at from drizzle.__drizzle_migrations');
	return Number(rows[0].at ?? 0);
}
