/** People, PINs and sessions. PINs are argon2id hashes; tokens are kept as SHA-256 only. */
import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { and, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Connection } from './database';
import { people, sessions } from './schema';

export type Role = (typeof people.$inferSelect)['roles'][number];
export interface Person {
	id: string;
	name: string;
	roles: Role[];
	units: 'mm' | 'in';
}

const SESSION_HOURS = 14;
/** After this many wrong PINs in a row the name is locked for a while, longer each time. */
const FREE_ATTEMPTS = 5;
const LOCK_MINUTES = 2;
const LONGEST_LOCK_MINUTES = 60;

/** Argon2id with the package's defaults: 19 MiB, 2 passes. */
export const hashPin = (pin: string) => hash(pin);
const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

export type SignIn = { ok: true; token: string; person: Person; expiresAt: Date } | { ok: false; reason: 'wrong' | 'locked'; lockedUntil?: Date };

export async function signIn(db: Connection, name: string, pin: string): Promise<SignIn> {
	const [row] = await db
		.select()
		.from(people)
		.where(and(eq(sql`lower(${people.name})`, name.trim().toLowerCase()), isNull(people.archivedAt)));
	if (!row) {
		await hashPin(pin); // the same time as a real check: names cannot be guessed by the clock
		return { ok: false, reason: 'wrong' };
	}
	if (row.lockedUntil && row.lockedUntil > new Date()) return { ok: false, reason: 'locked', lockedUntil: row.lockedUntil };
	if (!(await verify(row.pinHash, pin))) {
		const failed = row.failedAttempts + 1;
		const over = failed - FREE_ATTEMPTS;
		const lockedUntil = over >= 0 ? new Date(Date.now() + 60_000 * Math.min(LONGEST_LOCK_MINUTES, LOCK_MINUTES * 2 ** Math.min(over, 6))) : null;
		// counted in the database, so that tries sent side by side all count
		await db
			.update(people)
			.set({ failedAttempts: sql`${people.failedAttempts} + 1`, lockedUntil })
			.where(eq(people.id, row.id));
		return lockedUntil ? { ok: false, reason: 'locked', lockedUntil } : { ok: false, reason: 'wrong' };
	}
	await db.update(people).set({ failedAttempts: 0, lockedUntil: null }).where(eq(people.id, row.id));
	const token = randomBytes(32).toString('base64url');
	const expiresAt = new Date(Date.now() + SESSION_HOURS * 3_600_000);
	await db.insert(sessions).values({ tokenHash: tokenHash(token), personId: row.id, expiresAt });
	return { ok: true, token, person: { id: row.id, name: row.name, roles: row.roles, units: row.units }, expiresAt };
}

export async function personOf(db: Connection, token: string): Promise<Person | undefined> {
	const [row] = await db
		.select({ id: people.id, name: people.name, roles: people.roles, units: people.units })
		.from(sessions)
		.innerJoin(people, eq(people.id, sessions.personId))
		.where(and(eq(sessions.tokenHash, tokenHash(token)), gt(sessions.expiresAt, new Date()), isNull(people.archivedAt)));
	return row;
}

export const signOut = (db: Connection, token: string) => db.delete(sessions).where(eq(sessions.tokenHash, tokenHash(token)));
