/** What the shop adds for itself: procedures, materials, heat numbers, people. */
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Material } from '../core/materials/grades';
import type { WeldSettings } from '../core/document/schema';
import { FaultError } from '../core/document/faults';
import { writeAudit, type AuditEntry, type AuditKind } from './audit';
import { changePin, hashPin, unlock, type Person, type Role } from './auth';
import type { Connection, Database } from './database';
import { weakness } from './pins';
import { ConflictError, MissingError } from './jobs';
import { heatNumbers, ownMaterials, people, procedures, procedureVersions, signInTries } from './schema';

export const listProcedures = (db: Connection) => db.select().from(procedures).orderBy(procedures.name);
export async function addProcedure(db: Database, name: string, settings: WeldSettings, note: string | undefined, by: string) {
	return db.transaction(async (tx) => {
		const [row] = await tx.insert(procedures).values({ name, settings, note, createdBy: by }).returning();
		await tx.insert(procedureVersions).values({ procedureId: row.id, version: row.version, settings, note, createdBy: by });
		return row;
	});
}
/** Changed settings or note make a new version, kept for good; archiving alone does not. */
export async function saveProcedure(
	db: Database,
	id: string,
	version: number,
	change: { settings?: WeldSettings; note?: string; archived?: boolean },
	by: string
) {
	const { archived, ...rest } = change;
	return db.transaction(async (tx) => {
		const [row] = await tx
			.update(procedures)
			.set({
				...rest,
				...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
				updatedAt: new Date(),
				version: sql`${procedures.version} + 1`
			})
			.where(and(eq(procedures.id, id), eq(procedures.version, version)))
			.returning();
		if (row) {
			if (rest.settings !== undefined || rest.note !== undefined)
				await tx.insert(procedureVersions).values({ procedureId: id, version: row.version, settings: row.settings, note: row.note, createdBy: by });
			return row;
		}
		const [current] = await tx.select().from(procedures).where(eq(procedures.id, id));
		if (!current) throw new MissingError('This procedure');
		throw new ConflictError(current);
	});
}
/** A procedure with every version it has had, newest first. */
export async function procedureWithVersions(db: Connection, id: string) {
	const [procedure] = await db.select().from(procedures).where(eq(procedures.id, id));
	if (!procedure) throw new MissingError('This procedure');
	const versions = await db
		.select({
			version: procedureVersions.version,
			settings: procedureVersions.settings,
			note: procedureVersions.note,
			createdAt: procedureVersions.createdAt,
			by: people.name
		})
		.from(procedureVersions)
		.innerJoin(people, eq(people.id, procedureVersions.createdBy))
		.where(eq(procedureVersions.procedureId, id))
		.orderBy(desc(procedureVersions.version));
	return { procedure, versions };
}

export const listMaterials = (db: Connection) => db.select().from(ownMaterials).where(isNull(ownMaterials.archivedAt)).orderBy(ownMaterials.id);
export async function addMaterial(db: Connection, material: Material, by: string) {
	const [row] = await db.insert(ownMaterials).values({ id: material.id, material, createdBy: by }).returning();
	return row;
}
export const listHeats = (db: Connection) => db.select().from(heatNumbers).where(isNull(heatNumbers.archivedAt)).orderBy(heatNumbers.heat);
export async function addHeat(db: Connection, heat: { heat: string; materialId: string; thicknessMm: number; supplier?: string }, by: string) {
	const [row] = await db
		.insert(heatNumbers)
		.values({ ...heat, createdBy: by })
		.returning();
	return row;
}

export const listPeople = (db: Connection) =>
	db
		.select({
			id: people.id,
			name: people.name,
			roles: people.roles,
			units: people.units,
			archivedAt: people.archivedAt,
			lockedUntil: signInTries.lockedUntil,
			version: people.version
		})
		.from(people)
		.leftJoin(signInTries, eq(signInTries.key, sql`'name:' || lower(${people.name})`))
		.orderBy(people.name);

/** @throws FaultError when the PIN is too easy for these roles */
function checkPin(pin: string, roles: readonly Role[]) {
	const allowed = weakness(pin, roles);
	if (allowed) throw new FaultError([{ field: 'pin', value: '', allowed }]);
}

export async function addPerson(db: Database, name: string, pin: string, roles: Role[], by?: AuditEntry) {
	checkPin(pin, roles);
	const pinHash = await hashPin(pin);
	return db.transaction(async (tx) => {
		const [row] = await tx.insert(people).values({ name, pinHash, roles }).returning({ id: people.id, name: people.name, roles: people.roles });
		if (by) await writeAudit(tx, 'person-added', { ...by, about: `${name}: ${roles.join(', ')}` });
		return row;
	});
}

export interface PersonChange {
	pin?: string;
	roles?: Role[];
	archived?: boolean;
	unlock?: boolean;
}
/** @throws FaultError for a weak PIN or for the admin role on a bench PIN, ConflictError when somebody else saved first */
export async function savePerson(db: Database, id: string, version: number, change: PersonChange, by: AuditEntry) {
	const [now] = await listPeople(db).then((all) => all.filter((p) => p.id === id));
	if (!now) throw new MissingError('This person');
	if (change.pin) checkPin(change.pin, change.roles ?? now.roles);
	else if (change.roles?.includes('admin') && !now.roles.includes('admin'))
		throw new FaultError([{ field: 'pin', value: '', allowed: 'give a new PIN with the admin role: one of the bench may be too short for it' }]);
	await db.transaction(async (tx) => {
		const [row] = await tx
			.update(people)
			.set({
				...(change.roles ? { roles: change.roles } : {}),
				...(change.archived === undefined ? {} : { archivedAt: change.archived ? new Date() : null }),
				version: sql`${people.version} + 1`
			})
			.where(and(eq(people.id, id), eq(people.version, version)))
			.returning({ name: people.name });
		if (!row) throw new ConflictError((await listPeople(tx)).find((p) => p.id === id));
		const tell = (kind: AuditKind, about = row.name) => writeAudit(tx, kind, { ...by, about });
		if (change.roles) await tell('roles-changed', `${row.name}: ${change.roles.join(', ')}`);
		if (change.archived !== undefined) await tell(change.archived ? 'person-archived' : 'person-restored');
		if (change.unlock) {
			await unlock(tx, row.name);
			await tell('unlocked');
		}
		if (change.pin) {
			await changePin(tx, id, change.pin);
			await tell('pin-changed');
		}
	});
}
/** @throws FaultError when the PIN is too easy for this person's roles */
export async function setOwnPin(db: Database, me: Person, pin: string, keep: string | undefined, by: AuditEntry) {
	checkPin(pin, me.roles);
	await changePin(db, me.id, pin, keep);
	await writeAudit(db, 'pin-changed', { ...by, about: me.name });
}
export const setUnits = (db: Connection, id: string, units: 'mm' | 'in') => db.update(people).set({ units }).where(eq(people.id, id));
