/** Jobs, their pieces and their plan revisions. Every save names the version it was made from. */
import type { CouponKind } from '../core/coupons/coupons';
import { and, desc, eq, ilike, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import { planOf } from '../core/reading/readPlan';
import { PLAN_VERSION, type PlanDocument } from '../core/document/schema';
import type { Connection, Database, Transaction } from './database';
import { jobs, people, pieces, planRevisions } from './schema';

export type Job = typeof jobs.$inferSelect;
export type Revision = typeof planRevisions.$inferSelect;
export type Piece = typeof pieces.$inferSelect;

export interface JobFields {
	name: string;
	customer?: string | null;
	dueDate?: string | null;
	quantity: number;
	notes?: string | null;
	/** which coupon it is, where it is one */
	coupon?: CouponKind;
}

/** The second of two savers gets this, with what the first one wrote. */
export class ConflictError<T> extends Error {
	constructor(readonly current: T) {
		super('Somebody else has saved this in the meantime');
		this.name = 'ConflictError';
	}
}
export class MissingError extends Error {
	constructor(what: string) {
		super(`${what} is not here`);
		this.name = 'MissingError';
	}
}
/** Something that is fine in itself but not allowed now. */
export class StateError extends Error {
	readonly field: string;
	constructor(field: string, message: string) {
		super(message);
		this.name = 'StateError';
		this.field = field;
	}
}

/** Columns of a plan that are searched. */
export const searched = (plan: PlanDocument) => ({
	family: plan.family?.kind ?? null,
	material: plan.parts[0].material,
	thicknessMm: plan.parts[0].thicknessMm,
	documentVersion: PLAN_VERSION
});

const serialOf = (number: number, index: number) => `${number}-${String(index + 1).padStart(2, '0')}`;

async function addPieces(db: Transaction, job: Job) {
	const have = await db.select().from(pieces).where(eq(pieces.jobId, job.id));
	const missing = Array.from({ length: job.quantity }, (_, i) => serialOf(job.number, i)).filter((s) => !have.some((p) => p.serial === s));
	if (missing.length) await db.insert(pieces).values(missing.map((serial) => ({ jobId: job.id, serial })));
	const wanted = new Set(Array.from({ length: job.quantity }, (_, i) => serialOf(job.number, i)));
	const extra = have.filter((p) => !wanted.has(p.serial) && !p.archivedAt);
	const begun = extra.find((p) => p.state !== 'waiting');
	if (begun) throw new StateError('quantity', `Piece ${begun.serial} has been started: the quantity cannot go below it`);
	if (extra.length)
		await db
			.update(pieces)
			.set({ archivedAt: new Date() })
			.where(
				inArray(
					pieces.id,
					extra.map((p) => p.id)
				)
			);
	const back = have.filter((p) => wanted.has(p.serial) && p.archivedAt);
	if (back.length)
		await db
			.update(pieces)
			.set({ archivedAt: null })
			.where(
				inArray(
					pieces.id,
					back.map((p) => p.id)
				)
			);
}

export async function createJob(db: Connection, fields: JobFields, plan: PlanDocument, by: string): Promise<Job> {
	return db.transaction(async (tx) => {
		const [job] = await tx
			.insert(jobs)
			.values({ ...fields, createdBy: by, updatedBy: by })
			.returning();
		await tx.insert(planRevisions).values({ jobId: job.id, revision: 1, document: plan, ...searched(plan), createdBy: by, updatedBy: by });
		await addPieces(tx, job);
		return job;
	});
}

export interface JobRow {
	id: string;
	number: number;
	name: string;
	customer: string | null;
	dueDate: string | null;
	quantity: number;
	archivedAt: Date | null;
	updatedAt: Date;
	material: string;
	thicknessMm: number;
	family: string | null;
	coupon: CouponKind | null;
	revision: number;
	issued: boolean;
	done: number;
	begun: number;
}

export async function listJobs(db: Connection, search: string, archived: boolean): Promise<JobRow[]> {
	const words = search.trim();
	const like = `%${words.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
	const latest = db
		.selectDistinctOn([planRevisions.jobId], {
			jobId: planRevisions.jobId,
			material: planRevisions.material,
			thicknessMm: planRevisions.thicknessMm,
			family: planRevisions.family,
			revision: planRevisions.revision,
			state: planRevisions.state
		})
		.from(planRevisions)
		.where(eq(planRevisions.variant, 0))
		.orderBy(planRevisions.jobId, desc(planRevisions.revision))
		.as('latest');
	const rows = await db
		.select({
			id: jobs.id,
			number: jobs.number,
			name: jobs.name,
			customer: jobs.customer,
			dueDate: jobs.dueDate,
			quantity: jobs.quantity,
			archivedAt: jobs.archivedAt,
			updatedAt: jobs.updatedAt,
			material: latest.material,
			thicknessMm: latest.thicknessMm,
			family: latest.family,
			coupon: jobs.coupon,
			revision: latest.revision,
			state: latest.state,
			done: sql<number>`(select count(*)::int from ${pieces} where ${pieces.jobId} = ${jobs.id} and ${pieces.state} = 'handed-over' and ${pieces.archivedAt} is null)`,
			begun: sql<number>`(select count(*)::int from ${pieces} where ${pieces.jobId} = ${jobs.id} and ${pieces.state} in ('in-hand', 'welded') and ${pieces.archivedAt} is null)`
		})
		.from(jobs)
		.innerJoin(latest, eq(latest.jobId, jobs.id))
		.where(
			and(
				archived ? isNotNull(jobs.archivedAt) : isNull(jobs.archivedAt),
				words ? or(ilike(jobs.name, like), ilike(jobs.customer, like), ilike(latest.material, like), eq(sql`${jobs.number}::text`, words)) : undefined
			)
		)
		.orderBy(sql`${jobs.dueDate} nulls last`, jobs.number)
		.limit(500);
	return rows.map(({ state, ...r }) => ({ ...r, issued: state === 'issued' }));
}

export async function getJob(db: Connection, id: string): Promise<Job> {
	const [job] = await db.select().from(jobs).where(eq(jobs.id, id));
	if (!job) throw new MissingError('This job');
	return job;
}

export async function saveJob(
	db: Database,
	id: string,
	version: number,
	fields: Partial<JobFields> & { archived?: boolean },
	by: string
): Promise<Job> {
	return db.transaction(async (tx) => {
		const { archived, ...rest } = fields;
		const [saved] = await tx
			.update(jobs)
			.set({
				...rest,
				...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
				updatedBy: by,
				updatedAt: new Date(),
				version: sql`${jobs.version} + 1`
			})
			.where(and(eq(jobs.id, id), eq(jobs.version, version)))
			.returning();
		if (!saved) throw new ConflictError(await getJob(tx, id));
		if (rest.quantity !== undefined) await addPieces(tx, saved);
		return saved;
	});
}

export const piecesOf = (db: Connection, jobId: string) =>
	db
		.select()
		.from(pieces)
		.where(and(eq(pieces.jobId, jobId), isNull(pieces.archivedAt)))
		.orderBy(pieces.serial);

export async function getPiece(db: Connection, id: string): Promise<Piece> {
	const [piece] = await db.select().from(pieces).where(eq(pieces.id, id));
	if (!piece) throw new MissingError('This piece');
	return piece;
}

/** Documents that have been read and found sound, by revision and version: nothing of a stored version changes, so once is enough. */
const sound = new Map<string, PlanDocument>();
const MOST_SOUND = 200;

function frozen<T>(value: T): T {
	if (typeof value === 'object' && value !== null && !Object.isFrozen(value)) {
		Object.freeze(value);
		for (const v of Object.values(value)) frozen(v);
	}
	return value;
}

/** Validated on the way out as on the way in: a document that has gone bad is found here and not on a screen. Shared, hence frozen. */
function checked(r: Revision): Revision {
	const key = `${r.id}/${r.version}`;
	let document = sound.get(key);
	if (!document) {
		if (sound.size >= MOST_SOUND) sound.delete(sound.keys().next().value!);
		sound.set(key, (document = frozen(planOf(r.document))));
	}
	return { ...r, document };
}

/** @param ofPieces those of single pieces as well, planned on from the bench */
export async function revisionsOf(db: Connection, jobId: string, ofPieces = false) {
	return db
		.select({
			id: planRevisions.id,
			revision: planRevisions.revision,
			variant: planRevisions.variant,
			state: planRevisions.state,
			issuedAt: planRevisions.issuedAt,
			issuedBy: people.name,
			version: planRevisions.version
		})
		.from(planRevisions)
		.leftJoin(people, eq(people.id, planRevisions.issuedBy))
		.where(and(eq(planRevisions.jobId, jobId), ofPieces ? undefined : eq(planRevisions.variant, 0)))
		.orderBy(planRevisions.revision, planRevisions.variant);
}

export async function getRevision(db: Connection, id: string): Promise<Revision> {
	const [r] = await db.select().from(planRevisions).where(eq(planRevisions.id, id));
	if (!r) throw new MissingError('This plan');
	return checked(r);
}

export async function revisionNumbered(db: Connection, jobId: string, revision: number): Promise<Revision> {
	const [r] = await db
		.select()
		.from(planRevisions)
		.where(and(eq(planRevisions.jobId, jobId), eq(planRevisions.revision, revision), eq(planRevisions.variant, 0)));
	if (!r) throw new MissingError(`Revision ${revision} of this job`);
	return checked(r);
}

export async function latestRevision(db: Connection, jobId: string, state?: 'issued'): Promise<Revision | undefined> {
	const [r] = await db
		.select()
		.from(planRevisions)
		.where(and(eq(planRevisions.jobId, jobId), eq(planRevisions.variant, 0), state ? eq(planRevisions.state, state) : undefined))
		.orderBy(desc(planRevisions.revision))
		.limit(1);
	return r && checked(r);
}

/** The plan being worked on: the newest revision, draft or issued. */
export async function currentPlan(db: Connection, jobId: string): Promise<Revision> {
	const r = await latestRevision(db, jobId);
	if (!r) throw new MissingError('This job’s plan');
	return r;
}

/** Saves over the draft; over an issued plan it opens the next revision. @throws ConflictError with the plan as it now stands */
export async function savePlan(
	db: Database,
	jobId: string,
	base: { revision: number; version: number },
	plan: PlanDocument,
	by: string
): Promise<Revision> {
	return db.transaction(async (tx) => {
		// one saver at a time for this job, so that revision numbers do not collide
		await tx.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, jobId)).for('update');
		const now = await currentPlan(tx, jobId);
		if (now.revision !== base.revision || now.version !== base.version) throw new ConflictError(now);
		await tx.update(jobs).set({ updatedAt: new Date(), updatedBy: by }).where(eq(jobs.id, jobId));
		if (now.state === 'issued') {
			const [next] = await tx
				.insert(planRevisions)
				.values({ jobId, revision: now.revision + 1, document: plan, ...searched(plan), createdBy: by, updatedBy: by })
				.returning();
			return next;
		}
		const [saved] = await tx
			.update(planRevisions)
			.set({ document: plan, ...searched(plan), updatedBy: by, updatedAt: new Date(), version: now.version + 1 })
			.where(and(eq(planRevisions.id, now.id), eq(planRevisions.version, now.version)))
			.returning();
		if (!saved) throw new ConflictError(await currentPlan(tx, jobId));
		return saved;
	});
}

/** Freezes the draft for the bench. */
export async function issuePlan(db: Connection, jobId: string, base: { revision: number; version: number }, by: string): Promise<Revision> {
	return db.transaction(async (tx) => {
		await tx.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, jobId)).for('update');
		const now = await currentPlan(tx, jobId);
		if (now.revision !== base.revision || now.version !== base.version) throw new ConflictError(now);
		if (now.state === 'issued') throw new StateError('revision', `Revision ${now.revision} is already issued`);
		if (!now.document.runs.length) throw new StateError('runs', 'There are no runs to carry out: plan the order first');
		const [issued] = await tx
			.update(planRevisions)
			.set({ state: 'issued', issuedBy: by, issuedAt: new Date(), version: now.version + 1 })
			.where(eq(planRevisions.id, now.id))
			.returning();
		return issued;
	});
}
