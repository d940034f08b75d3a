/** The backup that is made by itself: one each night, the newest kept, its age shown to admins. */
import path from 'node:path';
import { lastOf, writeAudit, type AuditEntry } from './audit';
import { backup, BackupError, keepNewest, nightlyName } from './backup';
import type { Database } from './database';
import { StateError } from './jobs';

/** At half past two by the server's clock, or as the shop sets it (five fields: minute, hour, day, month, weekday). */
export const nightlyCron = () => process.env.SARTA_BACKUP_CRON ?? '30 2 * * *';
export const BACKUPS_KEPT = 14;
/** A shop without a backup for this long is told so, h. */
export const OLD_HOURS = 48;

/** Where they lie; nothing where this machine keeps none. */
export const backupFolder = () => process.env.SARTA_BACKUPS;

/** @throws StateError where there is no folder, or the tools of the database fail */
export async function nightlyBackup(db: Database, by: AuditEntry = {}): Promise<string> {
	const folder = backupFolder();
	const url = process.env.DATABASE_URL;
	if (!folder || !url) throw new StateError('backup', 'This machine keeps no backups: set SARTA_BACKUPS to a folder, or use bin/sarta backup');
	const file = path.join(folder, nightlyName(new Date()));
	try {
		const { bytes } = await backup(url, file);
		await writeAudit(db, 'backup', { ...by, about: `${file}, ${(bytes / 1e6).toFixed(1)} MB` });
		await keepNewest(folder, BACKUPS_KEPT);
		return file;
	} catch (e) {
		if (e instanceof BackupError) throw new StateError('backup', e.message);
		throw e;
	}
}

export async function backupState(db: Database) {
	const last = await lastOf(db, 'backup');
	const ageHours = last ? (Date.now() - last.at.getTime()) / 3_600_000 : undefined;
	return { folder: backupFolder() ?? null, last: last ?? null, isOld: ageHours === undefined || ageHours > OLD_HOURS, kept: BACKUPS_KEPT };
}
