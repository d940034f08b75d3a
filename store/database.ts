import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema';

const open = () => {
	const url = process.env.DATABASE_URL;
	if (!url) throw new Error('DATABASE_URL is not set: start the program with bin/start');
	const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
	// a client that loses its line while idle says so here; unheard it would end the process. The next query opens another.
	pool.on('error', () => {});
	return { pool, db: drizzle(pool, { schema, casing: 'snake_case' }) };
};
let opened: ReturnType<typeof open> | undefined;

export type Database = ReturnType<typeof open>['db'];
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
export type Connection = Database | Transaction;

/** Lazy: the build imports every server module, so nothing may connect or throw at import. */
export const getDb = (): Database => (opened ??= open()).db;

export async function closeDb() {
	await opened?.pool.end();
	opened = undefined;
}
