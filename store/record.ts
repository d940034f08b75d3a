/** A job with all that was recorded of it, as the open file of core/formats/jobRecord. */
import { asc, desc, eq, sql } from 'drizzle-orm';
import { unitOf } from '../core/features';
import {
	RECORD_VERSION,
	type JobRecord,
	type RecordedPhotograph,
	type RecordedPiece,
	type RecordedResult,
	type RecordedRun,
	type RecordedScan
} from '../core/formats/jobRecord';
import { placesOf } from '../core/scan/kept';
import type { BenchStep } from '../core/weldout/benchSteps';
import { issuedAndRun } from '../core/weldout/issuedAndRun';
import { whereItStands } from '../core/weldout/logbook';
import type { JobHeader } from '../core/formats/jobFile';
import type { PlanDocument } from '../core/document/schema';
import { boundTo, eventsOf, handOverOf, measurementsOf, signatureOf, tappedAt } from './bench';
import { photographsOf, pictureOf } from './photographs';
import type { Connection, Database } from './database';
import { createJob, getJob, getRevision, MissingError, revisionsOf, type Job } from './jobs';
import { scansOf, shapeOf } from './scans';
import { importedRecords, people, pieces } from './schema';

/** A revision's bench steps. */
export type StepsOf = (revision: { id: string; version: number; document: PlanDocument }) => Promise<readonly BenchStep[]>;

const iso = (d: Date) => d.toISOString();
/** Leaves out what is not there: an absent field is absent in a file, not null. */
const filled = <T extends object>(o: T) => Object.fromEntries(Object.entries(o).filter(([, v]) => v !== null && v !== undefined)) as T;

export const headerOf = (job: Job): JobHeader =>
	filled({
		name: job.name,
		quantity: job.quantity,
		customer: job.customer ?? undefined,
		dueDate: job.dueDate ?? undefined,
		notes: job.notes ?? undefined
	});

export async function recordOf(db: Connection, jobId: string, stepsOf: StepsOf): Promise<JobRecord> {
	const job = await getJob(db, jobId);
	const revisions = await Promise.all((await revisionsOf(db, jobId, true)).map(async (r) => ({ head: r, full: await getRevision(db, r.id) })));
	const rows = await db.select().from(pieces).where(eq(pieces.jobId, jobId)).orderBy(asc(pieces.serial));
	const written: RecordedPiece[] = [];
	for (const piece of rows) {
		const [events, readings, signature] = [await eventsOf(db, piece.id), await measurementsOf(db, piece.id, true), await signatureOf(db, piece.id)];
		if (piece.archivedAt && !events.length) continue;
		const bound = boundTo(events);
		const begun = revisions.find((r) => r.head.id === bound)?.full;
		const steps = begun ? await stepsOf(begun) : [];
		const words = new Map(steps.map((x) => [x.id, x.title]));
		written.push(
			filled({
				serial: piece.serial,
				state: piece.state,
				revision: begun?.revision,
				variant: begun?.variant || undefined,
				events: events.map((e) =>
					filled({
						clientId: e.clientId,
						kind: e.kind,
						step: e.step ?? undefined,
						title: words.get(e.step ?? ''),
						note: e.note ?? undefined,
						about: e.about ?? undefined,
						data: e.data ?? undefined,
						happenedAt: iso(e.happenedAt),
						receivedAt: iso(e.receivedAt),
						person: e.person,
						sentBy: e.sentBy ?? undefined
					})
				),
				readings: readings.map((m) =>
					filled({
						feature: m.feature,
						name: begun?.document.features.find((f) => f.id === m.feature)?.name,
						method: m.method,
						moment: m.moment,
						posture: m.posture,
						instrument: m.instrument,
						instrumentDueOn: m.instrumentDueOn ?? undefined,
						metalC: m.metalC ?? undefined,
						readings: m.readings,
						value: m.value,
						unit: m.unit as 'mm' | '°',
						uncertainty90: m.uncertainty90,
						arithmetic: m.arithmetic,
						person: m.person,
						measuredAt: iso(m.measuredAt),
						withdrawnAt: m.withdrawnAt ? iso(m.withdrawnAt) : undefined,
						withdrawnWhy: m.withdrawnWhy ?? undefined
					})
				),
				photographs: await photographed(db, piece.id, words),
				scans: await scanned(db, piece.id),
				...(begun ? asRunAndRead(begun.document, steps, events, readings) : { runs: [], results: [] }),
				signature: signature
					? filled({
							statement: signature.statement,
							accepted: signature.accepted,
							concession: signature.concession ?? undefined,
							person: signature.person,
							signedAt: iso(signature.signedAt),
							revision: signature.revision
						})
					: undefined
			})
		);
	}
	return {
		format: 'sarta-record',
		version: RECORD_VERSION,
		writtenAt: iso(new Date()),
		number: job.number,
		job: headerOf(job),
		revisions: revisions.map(({ head, full }) =>
			filled({
				revision: head.revision,
				variant: head.variant || undefined,
				piece: rows.find((p) => p.id === full.pieceId)?.serial,
				state: head.state,
				issuedAt: head.issuedAt ? iso(head.issuedAt) : undefined,
				issuedBy: head.issuedBy ?? undefined,
				plan: full.document
			})
		),
		pieces: written
	};
}

async function photographed(db: Connection, pieceId: string, words: ReadonlyMap<string, string>): Promise<RecordedPhotograph[]> {
	const out: RecordedPhotograph[] = [];
	for (const { clientId, step, about, note, person, sentBy, takenAt } of await photographsOf(db, pieceId))
		out.push(
			filled({
				clientId,
				step: step ?? undefined,
				title: words.get(step ?? ''),
				about: about ?? undefined,
				note: note ?? undefined,
				person,
				sentBy: sentBy ?? undefined,
				takenAt: iso(takenAt),
				jpeg: (await pictureOf(db, pieceId, clientId, 'picture')).toString('base64')
			})
		);
	return out;
}

/** Each scan with where its nodes are drawn; hundredths of a mm. */
async function scanned(db: Connection, pieceId: string): Promise<RecordedScan[]> {
	return Promise.all(
		(await scansOf(db, pieceId)).map(async ({ planRevisionId: _, isFromDatum, measuredAt, metalC, ...scan }) =>
			filled({
				...scan,
				metalC: metalC ?? undefined,
				seen: isFromDatum ? ('datum' as const) : ('closest' as const),
				measuredAt: iso(measuredAt),
				nodes: Array.from(placesOf(await shapeOf(db, pieceId, scan.clientId)), (v) => Math.round(100 * v) / 100)
			})
		)
	);
}

/** What the log and the readings come to: each run as issued and as run, each feature by the readings that decide. */
function asRunAndRead(
	plan: PlanDocument,
	steps: readonly BenchStep[],
	events: Awaited<ReturnType<typeof eventsOf>>,
	readings: Awaited<ReturnType<typeof measurementsOf>>
): { runs: RecordedRun[]; results: RecordedResult[] } {
	const at = whereItStands(
		steps,
		events.map((e) => ({ ...e, at: tappedAt(e) }))
	);
	const { runs } = issuedAndRun(plan, at, (mm, digits = 1) => `${mm.toFixed(digits)} mm`);
	const { judged } = handOverOf({ plan, steps }, events, readings);
	return {
		runs: runs.map((r) => filled({ number: r.number, seam: r.letter, issued: r.issued, run: r.run || undefined, otherwise: r.otherwise })),
		results: plan.features.map((f) => {
			const { value, uncertainty90, said, missing } = judged.find((j) => j.feature === f.id)!;
			return filled({
				feature: f.id,
				name: f.name,
				value,
				uncertainty90,
				unit: unitOf(f),
				verdict: said === 'final shape' ? undefined : said,
				missing
			});
		})
	};
}

/** A job from a record: its newest plan to work on, and the record beside it as it was read. */
export async function importRecord(db: Database, record: JobRecord, name: string, by: string): Promise<Job> {
	// a plan of one piece is no plan of the job
	const own = record.revisions.filter((r) => r.variant === undefined);
	const newest = (own.length ? own : record.revisions).reduce((a, b) => (b.revision > a.revision ? b : a));
	return db.transaction(async (tx) => {
		const job = await createJob(tx, { ...record.job, name }, newest.plan, by);
		await tx.insert(importedRecords).values({ jobId: job.id, record: JSON.parse(JSON.stringify(record)), importedBy: by });
		return job;
	});
}

export async function hasImportedRecord(db: Connection, jobId: string): Promise<boolean> {
	return (await db.select({ id: importedRecords.id }).from(importedRecords).where(eq(importedRecords.jobId, jobId)).limit(1)).length > 0;
}

/** The record a job came with, if it came with one. */
export async function importedRecordOf(db: Connection, jobId: string) {
	const [row] = await db
		.select({ record: importedRecords.record, importedAt: importedRecords.importedAt, person: people.name })
		.from(importedRecords)
		.innerJoin(people, eq(people.id, importedRecords.importedBy))
		.where(eq(importedRecords.jobId, jobId))
		.orderBy(desc(importedRecords.importedAt))
		.limit(1);
	return row && { ...row, record: row.record as JobRecord };
}

/** One photograph of the record a job came with, as JPEG. @throws MissingError */
export async function importedPictureOf(db: Connection, jobId: string, clientId: string): Promise<Buffer> {
	// looked up where it lies: a record of many photographs is tens of megabytes
	const { rows } = await db.execute<{ jpeg: string }>(sql`
		select photograph ->> 'jpeg' as jpeg
		from ${importedRecords}, jsonb_array_elements(record -> 'pieces') piece, jsonb_array_elements(piece -> 'photographs') photograph
		where job_id = ${jobId} and photograph ->> 'clientId' = ${clientId} limit 1`);
	if (!rows.length) throw new MissingError('This photograph');
	return Buffer.from(rows[0].jpeg, 'base64');
}
