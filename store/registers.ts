/** The shop's registers: bars, clamps, instruments and the like, each by its name. */
import type { RegisterKind } from '../core/document/words';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { FaultError } from '../core/document/faults';
import { REGISTERS, type RegisterItem } from '../core/registers/registers';
import type { Connection, Database } from './database';
import { ConflictError, MissingError } from './jobs';
import { registerItems } from './schema';

/** What one register may hold: lists and choices stay usable. */
export const MOST_ITEMS = 2000;

export type Registered = typeof registerItems.$inferSelect;

/** By kind and name. @param kind one of them; absent: all */
export const listRegister = (db: Connection, kind?: RegisterKind) =>
	db
		.select()
		.from(registerItems)
		.where(kind && eq(registerItems.kind, kind))
		.orderBy(asc(registerItems.kind), asc(registerItems.name));

/** What is in use, as pages offer it. */
export async function inUse(db: Connection) {
	const rows = await db
		.select({ id: registerItems.id, kind: registerItems.kind, item: registerItems.item })
		.from(registerItems)
		.where(isNull(registerItems.archivedAt))
		.orderBy(asc(registerItems.name));
	return rows;
}

export async function registered(db: Connection, id: string): Promise<Registered> {
	const [row] = await db.select().from(registerItems).where(eq(registerItems.id, id));
	if (!row) throw new MissingError('This entry of the register');
	return row;
}

/** @throws FaultError where there is one of this name */
export async function addItem(db: Database, kind: RegisterKind, item: RegisterItem, by: string): Promise<Registered> {
	return db.transaction(async (tx) => {
		await haveRoom(tx, kind, 1);
		const [row] = await tx.insert(registerItems).values({ kind, name: item.name, item, updatedBy: by }).onConflictDoNothing().returning();
		if (!row) throw taken(kind, item.name);
		return row;
	});
}

/** @throws ConflictError when somebody else saved it first */
export async function saveItem(
	db: Database,
	id: string,
	version: number,
	{ item, archived }: { item?: RegisterItem; archived?: boolean },
	by: string
): Promise<Registered> {
	return db.transaction(async (tx) => {
		const [current] = await tx.select().from(registerItems).where(eq(registerItems.id, id)).for('update');
		if (!current) throw new MissingError('This entry of the register');
		if (current.version !== version) throw new ConflictError(current);
		if (item && item.name !== current.name) {
			const [other] = await tx
				.select({ id: registerItems.id })
				.from(registerItems)
				.where(and(eq(registerItems.kind, current.kind), eq(registerItems.name, item.name)));
			if (other) throw taken(current.kind, item.name);
		}
		const [row] = await tx
			.update(registerItems)
			.set({
				...(item ? { item, name: item.name } : {}),
				...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
				updatedBy: by,
				updatedAt: new Date(),
				version: version + 1
			})
			.where(eq(registerItems.id, id))
			.returning();
		return row;
	});
}

/** Rows of a file: one whose name is known takes that one's place, in use again if it was put away; nothing is taken out by a file that does not have it. */
export async function takeIn(
	db: Database,
	kind: RegisterKind,
	items: readonly RegisterItem[],
	by: string
): Promise<{ added: number; changed: number }> {
	return db.transaction(async (tx) => {
		const known = new Set((await listRegister(tx, kind)).map((r) => r.name));
		const added = items.filter((i) => !known.has(i.name)).length;
		await haveRoom(tx, kind, added);
		if (items.length)
			await tx
				.insert(registerItems)
				.values(items.map((item) => ({ kind, name: item.name, item, updatedBy: by })))
				.onConflictDoUpdate({
					target: [registerItems.kind, registerItems.name],
					set: { item: sql`excluded.item`, updatedBy: by, updatedAt: new Date(), archivedAt: null, version: sql`${registerItems.version} + 1` }
				});
		return { added, changed: items.length - added };
	});
}

const taken = (kind: RegisterKind, name: string) =>
	new FaultError([{ field: 'item.name', value: name, allowed: `there is a ${REGISTERS[kind].one} of this name already` }]);

async function haveRoom(db: Connection, kind: RegisterKind, more: number) {
	const [{ has }] = await db
		.select({ has: sql<number>`count(*)::int` })
		.from(registerItems)
		.where(eq(registerItems.kind, kind));
	if (has + more > MOST_ITEMS) throw new FaultError([{ field: 'kind', value: `${has + more} entries`, allowed: `at most ${MOST_ITEMS} of a kind` }]);
}
