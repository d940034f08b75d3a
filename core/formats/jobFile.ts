/** The job file: one job with its plan, as JSON. Refused whole with a list of faults when wrong; lossless round trip. */
import 'reflect-metadata';
import { IsIn, Matches } from 'class-validator';
import { planFaults } from '../reading/readPlan';
import { FaultError, type Fault } from '../document/faults';
import { PlanDocument } from '../document/schema';
import { upgraded } from '../document/upgrade';
import { readAs } from '../document/validate';
import { Int, Maybe, Name, Note, One } from '../document/validators';
import { JOB_FILE_LIMIT } from './limits';

export const JOB_FILE_VERSION = 1;

export class JobHeader {
	@Name(120) name!: string;
	@Maybe() @Name(120) customer?: string;
	@Maybe() @Matches(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, { message: 'must be a date like 2026-04-30' }) dueDate?: string;
	@Int(1, 500) quantity: number = 1;
	@Maybe() @Note() notes?: string;
}

export class JobFile {
	@IsIn(['sarta-job'], { message: 'must be sarta-job' }) format: 'sarta-job' = 'sarta-job' as const;
	@IsIn([JOB_FILE_VERSION], { message: `must be ${JOB_FILE_VERSION}: this program reads no other version` }) version: 1 = 1 as const;
	@One(() => JobHeader) job!: JobHeader;
	@One(() => PlanDocument) plan!: PlanDocument;
}

/** @returns the file's contents, or every fault; nothing in between */
export function readJobFile(text: string): { file: JobFile; faults: [] } | { file?: undefined; faults: Fault[] } {
	if (text.length > JOB_FILE_LIMIT)
		return { faults: [{ field: 'file', value: `${(text.length / 1e6).toFixed(1)} MB`, allowed: `at most ${JOB_FILE_LIMIT / 1e6} MB` }] };
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (e) {
		return { faults: [{ field: 'file', value: (e as Error).message.slice(0, 80), allowed: 'must be JSON text' }] };
	}
	try {
		if (typeof raw === 'object' && raw !== null && 'plan' in raw) raw = { ...raw, plan: upgraded(raw.plan, 'plan') };
	} catch (e) {
		if (!(e instanceof FaultError)) throw e;
		return { faults: e.faults };
	}
	const read = readAs(JobFile, raw);
	if (!read.value) return { faults: read.faults };
	const faults = planFaults(read.value.plan, 'plan');
	return faults.length ? { faults } : { file: read.value, faults: [] };
}

/** @throws FaultError */
export function jobFileOf(text: string): JobFile {
	const read = readJobFile(text);
	if (!read.file) throw new FaultError(read.faults);
	return read.file;
}

export const writeJobFile = (job: JobHeader, plan: PlanDocument): string =>
	`${JSON.stringify({ format: 'sarta-job', version: JOB_FILE_VERSION, job, plan }, null, '\t')}\n`;
