/** What the shop has learned: a lesson a piece, kept with its readings as the learner takes them, withdrawn with a reason, never deleted. */
import { and, desc, eq, isNull } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { FACTOR_METHOD, thicknessBand, type ShopFactors } from '../core/factors/factors';
import type { Context } from '../core/learn/context';
import type { Evidence } from '../core/learn/shop';
import { writeAudit } from './audit';
import type { Connection, Database } from './database';
import { MissingError, StateError } from './jobs';
import { jobs, people, pieces, shopFactors } from './schema';

const inForce = and(eq(shopFactors.method, FACTOR_METHOD), isNull(shopFactors.archivedAt));

/** What changes when the lessons in force do: asked on every page, so without the readings. */
export async function markOfLessons(db: Connection): Promise<string> {
	const rows = await db.select({ id: shopFactors.id }).from(shopFactors).where(inForce).orderBy(shopFactors.createdAt, shopFactors.id);
	return rows.map((r) => r.id).join();
}

/** Evidence of the lessons in force, oldest first, with their mark. */
export async function evidenceInForce(db: Connection): Promise<{ evidence: Evidence[]; mark: string }> {
	const rows = await db
		.select({ id: shopFactors.id, evidence: shopFactors.evidence })
		.from(shopFactors)
		.where(inForce)
		.orderBy(shopFactors.createdAt, shopFactors.id);
	return { evidence: rows.flatMap((r) => r.evidence ?? []), mark: rows.map((r) => r.id).join() };
}

export interface NewLesson {
	pieceId: string;
	context: Context;
	evidence: Evidence[];
	/** in its context, after it */
	factors: ShopFactors;
}

/** @throws StateError where a reading of it is in a lesson in force already */
export async function addLesson(db: Database, { pieceId, context, evidence, factors }: NewLesson, by: string) {
	return db.transaction(async (tx) => {
		// one at a time: two that adopt the same readings at once would count them twice
		await tx.select().from(pieces).where(eq(pieces.id, pieceId)).for('update');
		const known = new Set((await evidenceInForce(tx)).evidence.map((e) => e.reading));
		if (evidence.some((e) => known.has(e.reading))) throw new StateError('measurements', 'The factors hold these readings already: reload the page');
		const [row] = await tx
			.insert(shopFactors)
			.values({
				materialGroup: context.group,
				thicknessBand: thicknessBand(context.thicknessMm),
				technique: context.technique,
				method: FACTOR_METHOD,
				factors,
				measurementIds: evidence.map((e) => e.reading),
				fromPieceId: pieceId,
				context,
				evidence,
				createdBy: by
			})
			.returning();
		return row;
	});
}

const withdrawer = alias(people, 'withdrawer');
/** Every lesson there has been, newest first. */
export const lessonHistory = (db: Connection) =>
	db
		.select({
			id: shopFactors.id,
			method: shopFactors.method,
			context: shopFactors.context,
			factors: shopFactors.factors,
			readings: shopFactors.measurementIds,
			pieceId: shopFactors.fromPieceId,
			serial: pieces.serial,
			jobId: jobs.id,
			job: jobs.name,
			createdAt: shopFactors.createdAt,
			person: people.name,
			withdrawnAt: shopFactors.archivedAt,
			withdrawnBy: withdrawer.name,
			withdrawnWhy: shopFactors.archivedWhy
		})
		.from(shopFactors)
		.innerJoin(people, eq(people.id, shopFactors.createdBy))
		.leftJoin(withdrawer, eq(withdrawer.id, shopFactors.archivedBy))
		.leftJoin(pieces, eq(pieces.id, shopFactors.fromPieceId))
		.leftJoin(jobs, eq(jobs.id, pieces.jobId))
		.orderBy(desc(shopFactors.createdAt));

/** Its readings say nothing any more; they can be learned from anew. @throws StateError where it is withdrawn already */
export async function withdrawLesson(db: Database, id: string, why: string, by: string, address?: string) {
	return db.transaction(async (tx) => {
		const [row] = await tx
			.update(shopFactors)
			.set({ archivedAt: new Date(), archivedBy: by, archivedWhy: why })
			.where(and(eq(shopFactors.id, id), isNull(shopFactors.archivedAt)))
			.returning({ readings: shopFactors.measurementIds, pieceId: shopFactors.fromPieceId });
		if (!row) {
			const [there] = await tx.select({ id: shopFactors.id }).from(shopFactors).where(eq(shopFactors.id, id));
			if (!there) throw new MissingError('This lesson');
			throw new StateError('lesson', 'This lesson is withdrawn already: reload the page');
		}
		const [piece] = row.pieceId ? await tx.select({ serial: pieces.serial }).from(pieces).where(eq(pieces.id, row.pieceId)) : [];
		await writeAudit(tx, 'lesson-withdrawn', { by, about: `${piece?.serial ?? 'a piece'}, ${row.readings.length} readings: ${why}`, address });
	});
}

/** Every set of factors there has been, oldest first, as it is stored. */
export const allFactors = (db: Connection) => db.select().from(shopFactors).orderBy(shopFactors.createdAt);
