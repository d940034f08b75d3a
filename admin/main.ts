/**
 * The shop's keeper at the command line: backup, restore, everything as open files, and letting a locked name in again. Reached by
 * bin/sarta, which finds the database. Exit 0 done, 1 refused, 2 wrong use.
 */
import 'reflect-metadata';
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { benchPlan } from '../core/weldout/benchPlan';
import { writeAudit } from '../store/audit';
import { unlock, unlockAddresses } from '../store/auth';
import { backup, BackupError, restore, type Progress } from '../store/backup';
import { closeDb, getDb } from '../store/database';
import { everything } from '../store/everything';
import { migrateTo, NewerDatabaseError } from '../store/migration';
import type { StepsOf } from '../store/record';

const USE = `use: sarta backup FILE                everything in one file, while work goes on
     sarta restore FILE               puts a backup in the place of what is there, which is kept under another name; Sarta must be stopped
     sarta export FOLDER              every job with its record, people, library, factors and audit as JSON
     sarta admin unlock NAME          a name that too many wrong PINs have locked; "addresses" for all locked addresses`;

class UseError extends Error {}

const app = process.env.DATABASE_URL ?? '';
const owner = process.env.DATABASE_OWNER_URL ?? app;
const migrations = process.env.SARTA_MIGRATIONS ?? path.resolve('store/migrations');
const size = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1e3).toFixed(0)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);
const progress: Progress = (table, done, of) => console.error(`  ${done}${of ? ` of ${of}` : ''}  ${table}`);

async function makeBackup(file: string) {
	const { bytes, tables } = await backup(owner, file, progress);
	await writeAudit(getDb(), 'backup', { about: `${path.resolve(file)}, ${size(bytes)}` });
	console.log(`${file}: ${size(bytes)}, ${tables} tables. Keep a copy on another machine.`);
}

async function takeBack(file: string) {
	const former = await restore(owner, file, (url) => migrateTo(url, roleOn(url), migrations), progress);
	await writeAudit(getDb(), 'restored', { about: path.resolve(file) });
	console.log(`Restored from ${file}. What was there before is kept as the database “${former}”.`);
}
/** The program's own role, at the database that is being made. */
function roleOn(url: string) {
	const u = new URL(app);
	u.pathname = new URL(url).pathname;
	return u.href;
}

async function exportAll(folder: string) {
	mkdirSync(folder, { recursive: true });
	if (readdirSync(folder).length) throw new UseError(`${folder} is not empty: nothing is written over`);
	const db = getDb();
	const stepsOf: StepsOf = (r) => Promise.resolve(benchPlan(r.document).steps);
	let files = 0;
	for await (const { name, text, about } of everything(db, stepsOf)) {
		console.error(`  ${about}`);
		writeFileSync(path.join(folder, name), text);
		files++;
	}
	await writeAudit(db, 'exported', { about: `everything, ${files} files, to ${path.resolve(folder)}` });
	console.log(`${files} files, every job with its record, people, library, factors and audit, in ${folder}.`);
}

async function letIn(name: string) {
	const { rowCount } = name === 'addresses' ? await unlockAddresses(getDb()) : await unlock(getDb(), name);
	if (rowCount) await writeAudit(getDb(), 'unlocked', { about: `${name}, from the command line` });
	console.log(rowCount ? `${name}: the lock is off.` : `${name}: there was no lock.`);
}

async function main([command, ...rest]: string[]) {
	if (!app) throw new UseError('DATABASE_URL is not set: use bin/sarta, which finds the database');
	const only = (what: string) => {
		if (rest.length !== 1) throw new UseError(`${command} takes ${what}`);
		return rest[0];
	};
	if (command === 'backup') await makeBackup(only('one file'));
	else if (command === 'restore') await takeBack(only('one file'));
	else if (command === 'export') await exportAll(only('one folder'));
	else if (command === 'admin' && rest[0] === 'unlock' && rest[1]) await letIn(rest.slice(1).join(' '));
	else throw new UseError(USE);
}

try {
	await main(process.argv.slice(2));
} catch (e) {
	const isUse = e instanceof UseError;
	if (!isUse && !(e instanceof BackupError) && !(e instanceof NewerDatabaseError)) throw e;
	console.error((e as Error).message);
	process.exitCode = isUse ? 2 : 1;
} finally {
	await closeDb();
}
