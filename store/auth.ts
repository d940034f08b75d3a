/** People, PINs and sessions. PINs are argon2id hashes; tokens are kept as SHA-256 only. */
import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { and, eq, gt, isNull, like, lt, ne, or, sql } from 'drizzle-orm';
import { writeAudit } from './audit';
import type { Connection, Database } from './database';
import { benchStamps, knownDevices, people, sessions, signInTries } from './schema';

export type Role = (typeof people.$inferSelect)['roles'][number];
export interface Person {
	id: string;
	name: string;
	roles: Role[];
	units: 'mm' | 'in';
	/** what the taps of this session carry */
	stamp: string | null;
}

const SESSION_HOURS = 14;
/** After this many wrong PINs in a row the name is locked for a while, longer each time. */
const FREE_ATTEMPTS = 5;
const LOCK_MINUTES = 2;
const LONGEST_LOCK_MINUTES = 60;
/** Wrong PINs of all names from one address that no known device stands at. */
const FREE_AT_ADDRESS = 40;
const ADDRESS_LOCK_MINUTES = 5;
/** Tries this old are forgotten, h. */
const MEMORY_HOURS = 24;
/** PINs worked out at the same time: each takes 19 MiB and some 30 ms of a core. */
const AT_ONCE = 2;
const MOST_WAITING = 1000;

/** Argon2id with the package's defaults: 19 MiB, 2 passes. */
export const hashPin = (pin: string) => hash(pin);
const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

export interface From {
	address: string;
	/** the device's cookie, where it has one */
	device?: string;
}
export type SignIn =
	| { ok: true; token: string; device: string; person: Person; expiresAt: Date }
	| { ok: false; reason: 'wrong' }
	| { ok: false; reason: 'busy' }
	| { ok: false; reason: 'locked'; lockedUntil: Date };

let working = 0;
const waiting: (() => void)[] = [];
/** @returns whether there was room to wait at all */
async function takeTurn(): Promise<boolean> {
	if (working < AT_ONCE) {
		working++;
		return true;
	}
	if (waiting.length >= MOST_WAITING) return false;
	await new Promise<void>((go) => waiting.push(go));
	return true;
}
function giveTurn() {
	const next = waiting.shift();
	if (next) next();
	else working--;
}

export async function signIn(db: Database, name: string, pin: string, from: From): Promise<SignIn> {
	if (!(await takeTurn())) return { ok: false, reason: 'busy' };
	try {
		return await tryPin(db, name.trim().toLowerCase(), pin, from);
	} finally {
		giveTurn();
	}
}

async function tryPin(db: Database, name: string, pin: string, from: From): Promise<SignIn> {
	const [row] = await db
		.select()
		.from(people)
		.where(and(eq(sql`lower(${people.name})`, name), isNull(people.archivedAt)));
	const device = from.device ? tokenHash(from.device) : undefined;
	const known = device ? await db.select({ personId: knownDevices.personId }).from(knownDevices).where(eq(knownDevices.tokenHash, device)) : [];
	const theirs = row !== undefined && known.some((k) => k.personId === row.id);
	// the try is counted before it is made: however many come side by side, no more are worked out than are free
	const nameKey = theirs ? `device:${device}:${name}` : `name:${name}`;
	const addressKey = known.length ? undefined : `address:${from.address}`;
	const locked =
		(await reserve(db, nameKey, FREE_ATTEMPTS, true)) ?? (addressKey ? await reserve(db, addressKey, FREE_AT_ADDRESS, false) : undefined);
	if (locked) return { ok: false, reason: 'locked', lockedUntil: locked };
	// an unknown name takes the same time as a real check: names cannot be guessed by the clock
	const right = row ? await verify(row.pinHash, pin) : (await hashPin(pin), false);
	if (!right) {
		await writeAudit(db, 'sign-in-failed', { about: name, address: from.address });
		const lockedUntil = await lockOf(db, nameKey);
		if (!lockedUntil) return { ok: false, reason: 'wrong' };
		await writeAudit(db, 'sign-in-locked', { about: name, address: from.address });
		return { ok: false, reason: 'locked', lockedUntil };
	}
	const token = randomBytes(32).toString('base64url');
	const deviceToken = from.device ?? randomBytes(32).toString('base64url');
	const expiresAt = new Date(Date.now() + SESSION_HOURS * 3_600_000);
	const stamp = await db.transaction(async (tx) => {
		await tx.delete(signInTries).where(eq(signInTries.key, nameKey));
		if (addressKey) await release(tx, addressKey, FREE_AT_ADDRESS);
		await tx
			.insert(knownDevices)
			.values({ tokenHash: tokenHash(deviceToken), personId: row.id })
			.onConflictDoNothing();
		const [made] = await tx.insert(benchStamps).values({ personId: row.id }).returning({ id: benchStamps.id });
		await tx.insert(sessions).values({ tokenHash: tokenHash(token), personId: row.id, expiresAt, stampId: made.id });
		await writeAudit(tx, 'sign-in', { by: row.id, address: from.address });
		await sweep(tx);
		return made.id;
	});
	return { ok: true, token, device: deviceToken, person: { id: row.id, name: row.name, roles: row.roles, units: row.units, stamp }, expiresAt };
}

/** Counts a try. @returns until when the key is locked, where this try is not to be made */
async function reserve(db: Connection, key: string, free: number, growing: boolean): Promise<Date | undefined> {
	const fails = sql`(case when ${signInTries.lastAt} < now() - make_interval(hours => ${MEMORY_HOURS}) then 1 else ${signInTries.fails} + 1 end)`;
	const minutes = growing
		? sql`least(${LONGEST_LOCK_MINUTES}::float8, ${LOCK_MINUTES}::float8 * power(2, least(${fails} - ${free}, 6)))`
		: sql`${ADDRESS_LOCK_MINUTES}::float8`;
	const [taken] = await db
		.insert(signInTries)
		.values({ key, fails: 1 })
		.onConflictDoUpdate({
			target: signInTries.key,
			set: {
				fails,
				lastAt: sql`now()`,
				// the last free try locks for those that come beside it; if it is right the row goes
				lockedUntil: sql`case when ${fails} >= ${free} then now() + ${minutes} * interval '1 minute' end`
			},
			setWhere: or(isNull(signInTries.lockedUntil), lt(signInTries.lockedUntil, sql`now()`))
		})
		.returning({ fails: signInTries.fails });
	return taken ? undefined : ((await lockOf(db, key)) ?? undefined);
}

async function lockOf(db: Connection, key: string): Promise<Date | null> {
	const [row] = await db.select({ until: signInTries.lockedUntil }).from(signInTries).where(eq(signInTries.key, key));
	return row?.until ?? null;
}

/** A try that was right was none: it is taken off the count, and with it a lock that only it made. */
const release = (db: Connection, key: string, free: number) =>
	db
		.update(signInTries)
		.set({
			fails: sql`greatest(0, ${signInTries.fails} - 1)`,
			lockedUntil: sql`case when ${signInTries.fails} - 1 >= ${free} then ${signInTries.lockedUntil} end`
		})
		.where(eq(signInTries.key, key));

/** What has run out: sessions, and tries nobody has added to for a day. */
async function sweep(db: Connection) {
	await db.delete(sessions).where(lt(sessions.expiresAt, sql`now()`));
	await db.delete(signInTries).where(lt(signInTries.lastAt, sql`now() - make_interval(hours => ${MEMORY_HOURS})`));
}

/** A name's locks, wherever they were made, are taken off. */
export const unlock = (db: Connection, name: string) => {
	const key = name.trim().toLowerCase();
	const end = key.replace(/[\\%_]/g, (c) => `\\${c}`);
	return db.delete(signInTries).where(or(eq(signInTries.key, `name:${key}`), like(signInTries.key, `device:%:${end}`)));
};
/** And those of addresses. */
export const unlockAddresses = (db: Connection) => db.delete(signInTries).where(like(signInTries.key, 'address:%'));

export async function personOf(db: Connection, token: string): Promise<Person | undefined> {
	const [row] = await db
		.select({ id: people.id, name: people.name, roles: people.roles, units: people.units, stamp: sessions.stampId })
		.from(sessions)
		.innerJoin(people, eq(people.id, sessions.personId))
		.where(and(eq(sessions.tokenHash, tokenHash(token)), gt(sessions.expiresAt, new Date()), isNull(people.archivedAt)));
	return row;
}

export const signOut = (db: Connection, token: string) => db.delete(sessions).where(eq(sessions.tokenHash, tokenHash(token)));

/** Whether this is the person's PIN; a wrong one counts as a wrong sign-in. */
export async function pinIsRight(db: Database, person: Person, pin: string, from: From): Promise<boolean> {
	const r = await signIn(db, person.name, pin, from);
	if (r.ok) await signOut(db, r.token);
	return r.ok;
}

/** A new PIN ends the person's other sessions: whoever knew the old one is out. */
export async function changePin(db: Connection, personId: string, pin: string, keep?: string) {
	const pinHash = await hashPin(pin);
	await db.transaction(async (tx) => {
		await tx.update(people).set({ pinHash }).where(eq(people.id, personId));
		await tx.delete(sessions).where(and(eq(sessions.personId, personId), keep ? ne(sessions.tokenHash, tokenHash(keep)) : undefined));
	});
}
