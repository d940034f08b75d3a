/** The audit: who did what to the shop's own data, and who tried. Rows are added, never changed. */
import { desc, eq, lt } from 'drizzle-orm';
import type { Connection } from './database';
import { audit, people } from './schema';

export const AUDIT_WORDS = {
	'sign-in': 'signed in',
	'sign-in-failed': 'wrong PIN',
	'sign-in-locked': 'too many wrong PINs: locked for a while',
	'sign-out': 'signed out',
	'person-added': 'added a person',
	'roles-changed': 'changed the roles of',
	'pin-changed': 'changed the PIN of',
	'person-archived': 'archived',
	'person-restored': 'took back',
	unlocked: 'unlocked',
	exported: 'exported',
	imported: 'imported',
	backup: 'made a backup',
	restored: 'restored a backup',
	'lesson-withdrawn': 'withdrew a lesson of',
	'trial-concluded': 'concluded the trial',
	'reading-withdrawn': 'withdrew a reading of',
	signed: 'signed',
	'device-added': 'added the device',
	'setting-changed': 'changed the shop’s setting'
} as const;
export type AuditKind = keyof typeof AUDIT_WORDS;

export interface AuditEntry {
	/** absent: nobody is known, or the machine did it */
	by?: string;
	about?: string;
	address?: string;
}

export const writeAudit = (db: Connection, kind: AuditKind, { by, about = '', address }: AuditEntry) =>
	db.insert(audit).values({ kind, personId: by, about: about.slice(0, 500), address });

/** Newest first. @param before a row's `seq`: the page after it */
export const auditPage = (db: Connection, before?: number, limit = 100) =>
	db
		.select({ seq: audit.seq, at: audit.at, kind: audit.kind, about: audit.about, address: audit.address, person: people.name })
		.from(audit)
		.leftJoin(people, eq(people.id, audit.personId))
		.where(before === undefined ? undefined : lt(audit.seq, before))
		.orderBy(desc(audit.seq))
		.limit(limit);

/** When a thing was last done, or nothing. */
export async function lastOf(db: Connection, kind: AuditKind) {
	const [row] = await db.select({ at: audit.at, about: audit.about }).from(audit).where(eq(audit.kind, kind)).orderBy(desc(audit.seq)).limit(1);
	return row;
}
