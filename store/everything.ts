/** All that a shop has in Sarta as open files, one at a time: no file waits in memory for the next. */
import { REGISTER_KINDS } from '../core/document/words';
import { registerCsv } from '../core/registers/registerCsv';
import { REGISTERS } from '../core/registers/registers';
import { auditPage } from './audit';
import type { Connection } from './database';
import { listJobs } from './jobs';
import { allFactors } from './lessons';
import { listHeats, listMaterials, listPeople, listProcedures } from './library';
import { recordOf, type StepsOf } from './record';
import { listRegister } from './registers';
import { allPractice } from './practice';
import { listTrials } from './trials';

export interface OpenFile {
	name: string;
	/** JSON, tabs for its levels */
	text: string;
	/** what it holds, to be said while it is written */
	about: string;
}

const json = (value: unknown) => `${JSON.stringify(value, null, '\t')}\n`;

export async function* everything(db: Connection, stepsOf: StepsOf): AsyncGenerator<OpenFile> {
	const jobs = [...(await listJobs(db, '', false)), ...(await listJobs(db, '', true))];
	for (const [i, { id, number, name }] of jobs.entries())
		yield {
			name: `job-${number}.sarta-record.json`,
			text: json(await recordOf(db, id, stepsOf)),
			about: `job ${i + 1} of ${jobs.length}: ${number} ${name}`
		};
	yield { name: 'people.json', text: json(await listPeople(db)), about: 'people' };
	yield {
		name: 'library.json',
		text: json({ procedures: await listProcedures(db), materials: await listMaterials(db), heats: await listHeats(db) }),
		about: 'procedures, materials, heats'
	};
	const registers = await listRegister(db);
	for (const kind of REGISTER_KINDS)
		yield {
			name: `register-${kind}.csv`,
			text: registerCsv(
				kind,
				registers.filter((r) => r.kind === kind && !r.archivedAt).map((r) => r.item)
			),
			about: REGISTERS[kind].words.toLowerCase()
		};
	yield { name: 'factors.json', text: json(await allFactors(db)), about: 'factors' };
	yield { name: 'trials.json', text: json(await listTrials(db)), about: 'trials' };
	yield { name: 'practice.json', text: json(await allPractice(db)), about: 'exercises done and set' };
	yield { name: 'audit.json', text: json(await auditPage(db, undefined, 1e6)), about: 'audit' };
}
