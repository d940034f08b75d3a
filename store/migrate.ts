/** Applies the migrations that are missing; safe to run again. */
import path from 'node:path';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { closeDb, getDb } from './database';

await migrate(getDb(), { migrationsFolder: process.env.SARTA_MIGRATIONS ?? path.resolve('store/migrations') });
await closeDb();
