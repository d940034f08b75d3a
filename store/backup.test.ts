import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { backup, keepNewest, nightlyName, restore } from './backup';

const folder = () => mkdtempSync(path.join(os.tmpdir(), 'sarta-backups-'));

describe('backups kept', () => {
	it('the newest of those made by themselves; what a person put there stays', async () => {
		const dir = folder();
		const names = [1, 2, 3, 4, 5].map((d) => nightlyName(new Date(Date.UTC(2026, 0, d, 2, 30))));
		for (const f of [...names, 'before-the-move.backup', 'sarta-notes.txt']) writeFileSync(path.join(dir, f), 'x');
		expect(await keepNewest(dir, 2)).toEqual(names.slice(0, 3));
		expect(readdirSync(dir).sort()).toEqual(['before-the-move.backup', names[3], names[4], 'sarta-notes.txt'].sort());
		expect(await keepNewest(dir, 2)).toEqual([]);
	});
	it('write over nothing, and take in no file that is none', async () => {
		const dir = folder();
		const file = path.join(dir, 'x.backup');
		writeFileSync(file, 'not a backup at all');
		await expect(backup('postgres://u:p@127.0.0.1:1/d', file)).rejects.toThrow(/there already/);
		await expect(restore('postgres://u:p@127.0.0.1:1/d', file, () => Promise.resolve())).rejects.toThrow(/pg_restore failed/);
		await expect(restore('postgres://u:p@127.0.0.1:1/d', path.join(dir, 'none'), () => Promise.resolve())).rejects.toThrow(/is not there/);
		// a database that does not answer leaves no half file
		await expect(backup('postgres://u:p@127.0.0.1:1/d', path.join(dir, 'y.backup'))).rejects.toThrow(/pg_dump failed/);
		expect(readdirSync(dir)).toEqual(['x.backup']);
	});
});
