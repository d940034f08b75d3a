/**
 * The record of a job: every revision of its plan, every line of its logs, every reading, photograph and signature, as one open file. Read again it is
 * history: looked at, never worked on.
 */
import 'reflect-metadata';
import { IsArray, IsBase64, IsISO8601, IsIn, IsNumber, IsString, IsUUID, MaxLength } from 'class-validator';
import { FaultError, type Fault } from '../document/faults';
import { PlanDocument } from '../document/schema';
import { upgraded } from '../document/upgrade';
import { readAs, type DocumentLimits } from '../document/validate';
import { Day, Flag, Int, ListOf, Maybe, Name, Note, Num, One, OneOf } from '../document/validators';
import { EVENT_KINDS, POSTURES, READ_MOMENTS, type EventKind, type Posture, type ReadMoment } from '../document/words';
import { planFaults } from '../reading/readPlan';
import { EventData } from '../weldout/happenings';
import { JobHeader } from './jobFile';

export const RECORD_VERSION = 1;

/** Plans stand three levels deeper here, and a log has thousands of lines. */
const RECORD_LIMITS: DocumentLimits = { depth: 16, values: 1_500_000 };

const Time = () => IsISO8601({ strict: true }, { message: 'must be a time like 2026-04-30T09:15:00Z' });

export class RecordedRevision {
	@Int(1, 1e6) revision!: number;
	/** of one piece, planned on from where it stood at the bench */
	@Maybe() @Int(1, 1e6) variant?: number;
	@Maybe() @Name(60) piece?: string;
	@OneOf(['draft', 'issued']) state!: 'draft' | 'issued';
	@Maybe() @Time() issuedAt?: string;
	@Maybe() @Name() issuedBy?: string;
	@One(() => PlanDocument) plan!: PlanDocument;
}
export class RecordedEvent {
	@Name(60) clientId!: string;
	@OneOf(EVENT_KINDS) kind!: EventKind;
	@Maybe() @Name(120) step?: string;
	/** the step's title, so that the file can be read without the plan */
	@Maybe() @Name(300) title?: string;
	@Maybe() @Note() note?: string;
	@Maybe() @Name(60) about?: string;
	@Maybe() @One(() => EventData) data?: EventData;
	@Time() happenedAt!: string;
	@Time() receivedAt!: string;
	@Name() person!: string;
	@Maybe() @Name() sentBy?: string;
}
export class RecordedReading {
	@Name(60) feature!: string;
	@Maybe() @Name(120) name?: string;
	@Name(60) method!: string;
	@OneOf(READ_MOMENTS) moment!: ReadMoment;
	@OneOf(POSTURES) posture!: Posture;
	@Name(80) instrument!: string;
	@Maybe() @Day() instrumentDueOn?: string;
	@Maybe() @Num(-50, 1500) metalC?: number;
	@IsArray({ message: 'must be a list of numbers' })
	@IsNumber({ allowNaN: false, allowInfinity: false }, { each: true, message: 'every reading must be a number' })
	readings!: number[];
	@Num(-1e6, 1e6) value!: number;
	@OneOf(['mm', '°']) unit!: 'mm' | '°';
	@Num(0, 1e6) uncertainty90!: number;
	@Name(2000) arithmetic!: string;
	@Name() person!: string;
	@Time() measuredAt!: string;
	@Maybe() @Time() withdrawnAt?: string;
	@Maybe() @Name(300) withdrawnWhy?: string;
}
/** Three quarters of a megabyte of JPEG at most, as the program keeps them; in base64 a third more. */
const MOST_BASE64 = 2_000_000;
export class RecordedPhotograph {
	@IsUUID(undefined, { message: 'must be a UUID' }) clientId!: string;
	@Maybe() @Name(120) step?: string;
	/** the step's title, so that the file can be read without the plan */
	@Maybe() @Name(300) title?: string;
	@Maybe() @Name(60) about?: string;
	@Maybe() @Name(300) note?: string;
	@Name() person!: string;
	@Maybe() @Name() sentBy?: string;
	@Time() takenAt!: string;
	/** JPEG in base64, without a prefix */
	@IsBase64({}, { message: 'must be a JPEG in base64' })
	@MaxLength(MOST_BASE64, { message: `must have at most ${MOST_BASE64} letters` })
	jpeg!: string;
}
/** What belongs to a scan of the whole piece, whether it is sent or recorded. */
export class ScanFacts {
	@OneOf(READ_MOMENTS) moment!: ReadMoment;
	@OneOf(POSTURES) posture!: Posture;
	/** the scanner's own file, which is not kept */
	@Name(120) file!: string;
	@Name(80) instrument!: string;
	@Maybe() @Num(-50, 1500) metalC?: number;
	/** deviations seen from the plan's datum points, or with the piece as close to its drawing as it lies */
	@OneOf(['closest', 'datum']) seen!: 'closest' | 'datum';
	@Int(1, 1e6) points!: number;
	@Num(0, 100) scatterMm!: number;
}
/** How the whole piece lay when it was scanned: by node of its plan's mesh where it is drawn and how far it stood from there. */
export class RecordedScan extends ScanFacts {
	@IsUUID(undefined, { message: 'must be a UUID' }) clientId!: string;
	@Name() person!: string;
	@Time() measuredAt!: string;
	/** mm: x, y, z and how far along each, node after node */
	@IsArray({ message: 'must be a list of numbers' })
	@IsNumber({ allowNaN: false, allowInfinity: false }, { each: true, message: 'every place must be a number' })
	nodes!: number[];
}
/** A run as issued beside as it was run, in words. */
export class RecordedRun {
	@Int(1, 1e5) number!: number;
	@Name(10) seam!: string;
	@Name(300) issued!: string;
	@Maybe() @Name(2000) run?: string;
	@IsArray({ message: 'must be a list of words' })
	@IsString({ each: true, message: 'every entry must be words' })
	otherwise!: string[];
}
/** What a feature comes to by the readings that decide, against its limit. */
export class RecordedResult {
	@Name(60) feature!: string;
	@Name(120) name!: string;
	@Maybe() @Num(-1e6, 1e6) value?: number;
	@Maybe() @Num(0, 1e6) uncertainty90?: number;
	@OneOf(['mm', '°']) unit!: 'mm' | '°';
	@Maybe() @OneOf(['inside', 'in doubt', 'outside']) verdict?: 'inside' | 'in doubt' | 'outside';
	/** why nothing decides */
	@Maybe() @Name(300) missing?: string;
}
export class RecordedSignature {
	@Name(600) statement!: string;
	@Flag() accepted!: boolean;
	@Maybe() @Name(600) concession?: string;
	@Name() person!: string;
	@Time() signedAt!: string;
	@Int(1, 1e6) revision!: number;
}
export class RecordedPiece {
	@Name(60) serial!: string;
	@OneOf(['waiting', 'in-hand', 'welded', 'handed-over']) state!: 'waiting' | 'in-hand' | 'welded' | 'handed-over';
	/** the revision it was welded to, where it was begun */
	@Maybe() @Int(1, 1e6) revision?: number;
	@Maybe() @Int(1, 1e6) variant?: number;
	@ListOf(() => RecordedEvent, 50_000) events: RecordedEvent[] = [];
	@ListOf(() => RecordedReading, 5000) readings: RecordedReading[] = [];
	@ListOf(() => RecordedPhotograph, 200) photographs: RecordedPhotograph[] = [];
	@ListOf(() => RecordedScan, 50) scans: RecordedScan[] = [];
	@ListOf(() => RecordedRun, 20_000) runs: RecordedRun[] = [];
	@ListOf(() => RecordedResult, 500) results: RecordedResult[] = [];
	@Maybe() @One(() => RecordedSignature) signature?: RecordedSignature;
}
export class JobRecord {
	@IsIn(['sarta-record'], { message: 'must be sarta-record' }) format: 'sarta-record' = 'sarta-record' as const;
	@IsIn([RECORD_VERSION], { message: `must be ${RECORD_VERSION}: this program reads no other version` }) version: 1 = 1 as const;
	@Time() writtenAt!: string;
	@Int(1, 1e9) number!: number;
	@One(() => JobHeader) job!: JobHeader;
	@ListOf(() => RecordedRevision, 1000) revisions!: RecordedRevision[];
	@ListOf(() => RecordedPiece, 500) pieces!: RecordedPiece[];
}

export const isRecord = (raw: unknown): boolean => typeof raw === 'object' && raw !== null && (raw as { format?: unknown }).format === 'sarta-record';

/** Each revision as this version writes it. @throws FaultError */
function withCurrentPlans(raw: unknown): unknown {
	const revisions = (raw as { revisions?: unknown } | null)?.revisions;
	if (!Array.isArray(revisions)) return raw;
	const current = revisions.map((r: unknown, i) =>
		typeof r === 'object' && r !== null && 'plan' in r ? { ...r, plan: upgraded(r.plan, `revisions[${i}].plan`) } : r
	);
	return { ...(raw as object), revisions: current };
}

/** @throws FaultError with every fault: a record is taken whole or not at all */
export function jobRecordOf(raw: unknown): JobRecord {
	const read = readAs(JobRecord, withCurrentPlans(raw), '', RECORD_LIMITS);
	if (!read.value) throw new FaultError(read.faults);
	const record = read.value;
	const faults: Fault[] = [];
	if (!record.revisions.length) faults.push({ field: 'revisions', value: 'none', allowed: 'must hold at least one revision of the plan' });
	record.revisions.forEach((r, i) => faults.push(...planFaults(r.plan, `revisions[${i}].plan`)));
	const known = new Set(record.revisions.map((r) => r.revision));
	record.pieces.forEach((p, i) => {
		for (const [field, n] of [
			['revision', p.revision],
			['signature.revision', p.signature?.revision]
		] as const)
			if (n !== undefined && !known.has(n))
				faults.push({ field: `pieces[${i}].${field}`, value: String(n), allowed: 'must be a revision in this file' });
	});
	if (faults.length) throw new FaultError(faults);
	return record;
}
