/** Applies the migrations that are missing; safe to run again, and side by side. */
import path from 'node:path';
import { migrateTo, NewerDatabaseError } from './migration';

const app = process.env.DATABASE_URL;
const owner = process.env.DATABASE_OWNER_URL ?? app;
if (!app || !owner) throw new Error('DATABASE_URL is not set: start the program with bin/start');
try {
	await migrateTo(owner, app, process.env.SARTA_MIGRATIONS ?? path.resolve('store/migrations'));
} catch (e) {
	if (!(e instanceof NewerDatabaseError)) throw e;
	console.error(e.message);
	process.exitCode = 3;
}
