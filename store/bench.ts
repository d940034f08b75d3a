/** The bench log, measurements and signatures of a piece. */
import { and, count, asc, eq, isNull } from 'drizzle-orm';
import type { Connection, Database } from './database';
import { getPiece, latestRevision, MissingError, StateError } from './jobs';
import { benchEvents, measurements, people, pieces, planRevisions, signatures } from './schema';

export interface NewEvent {
	clientId: string;
	kind: (typeof benchEvents.$inferSelect)['kind'];
	step?: string | null;
	note?: string | null;
	happenedAt: Date;
}

export async function eventsOf(db: Connection, pieceId: string) {
	return db
		.select({
			seq: benchEvents.seq,
			clientId: benchEvents.clientId,
			planRevisionId: benchEvents.planRevisionId,
			kind: benchEvents.kind,
			step: benchEvents.step,
			note: benchEvents.note,
			happenedAt: benchEvents.happenedAt,
			person: people.name
		})
		.from(benchEvents)
		.innerJoin(people, eq(people.id, benchEvents.personId))
		.where(eq(benchEvents.pieceId, pieceId))
		.orderBy(asc(benchEvents.seq));
}

/** The revision a piece was started on, if it was. */
export async function revisionOfPiece(db: Connection, pieceId: string): Promise<string | undefined> {
	const [first] = await db
		.select({ id: benchEvents.planRevisionId })
		.from(benchEvents)
		.where(and(eq(benchEvents.pieceId, pieceId), eq(benchEvents.kind, 'started')))
		.orderBy(benchEvents.seq)
		.limit(1);
	return first?.id;
}

/** What the log did not take, and why: the rest is in it. */
export interface RefusedEvent {
	clientId: string;
	message: string;
}

/**
 * Adds to the log, each event judged by itself: one that cannot be taken is told and blocks no other. The same clientId again changes
 * nothing. The first event of a piece binds it to the issued plan.
 */
export async function addEvents(
	db: Database,
	pieceId: string,
	events: readonly NewEvent[],
	by: string
): Promise<{ events: Awaited<ReturnType<typeof eventsOf>>; refused: RefusedEvent[] }> {
	return db.transaction(async (tx) => {
		const [piece] = await tx.select().from(pieces).where(eq(pieces.id, pieceId)).for('update');
		if (!piece) throw new MissingError('This piece');
		let revision = await revisionOfPiece(tx, pieceId);
		let state = piece.state;
		const refused: RefusedEvent[] = [];
		for (const e of events) {
			const refuse = (message: string) => void refused.push({ clientId: e.clientId, message });
			const [known] = await tx.select({ seq: benchEvents.seq }).from(benchEvents).where(eq(benchEvents.clientId, e.clientId));
			if (known) continue;
			if (e.kind === 'started') {
				if (revision) continue;
				const issued = await latestRevision(tx, piece.jobId, 'issued');
				if (!issued) {
					refuse('No revision of this plan has been issued to the bench yet');
					continue;
				}
				revision = issued.id;
				state = 'in-hand';
			} else if (!revision) {
				refuse(`Piece ${piece.serial} has not been started`);
				continue;
			}
			if (state === 'handed-over') {
				refuse(`Piece ${piece.serial} is handed over: its log is closed`);
				continue;
			}
			if (e.kind === 'finished') state = 'welded';
			await tx.insert(benchEvents).values({ ...e, pieceId, planRevisionId: revision!, personId: by });
		}
		if (state !== piece.state) await tx.update(pieces).set({ state }).where(eq(pieces.id, pieceId));
		return { events: await eventsOf(tx, pieceId), refused };
	});
}

export type NewMeasurement = Omit<
	typeof measurements.$inferInsert,
	'id' | 'pieceId' | 'measuredBy' | 'measuredAt' | 'withdrawnAt' | 'withdrawnBy' | 'withdrawnWhy'
>;

/** How many readings each piece of a job has, withdrawn ones left out; one question for all of them. */
export async function readingCounts(db: Connection, jobId: string): Promise<Map<string, number>> {
	const rows = await db
		.select({ piece: measurements.pieceId, readings: count() })
		.from(measurements)
		.innerJoin(pieces, eq(pieces.id, measurements.pieceId))
		.where(and(eq(pieces.jobId, jobId), isNull(measurements.withdrawnAt)))
		.groupBy(measurements.pieceId);
	return new Map(rows.map((r) => [r.piece, r.readings]));
}

export async function measurementsOf(db: Connection, pieceId: string, withWithdrawn = false) {
	const rows = await db
		.select()
		.from(measurements)
		.innerJoin(people, eq(people.id, measurements.measuredBy))
		.where(and(eq(measurements.pieceId, pieceId), withWithdrawn ? undefined : isNull(measurements.withdrawnAt)))
		.orderBy(measurements.measuredAt);
	return rows.map((r) => ({ ...r.measurements, person: r.people.name }));
}

export async function addMeasurement(db: Connection, pieceId: string, m: NewMeasurement, by: string) {
	const piece = await getPiece(db, pieceId);
	if (piece.state === 'handed-over') throw new StateError('piece', `Piece ${piece.serial} is handed over: its readings are closed`);
	const [row] = await db
		.insert(measurements)
		.values({ ...m, pieceId, measuredBy: by })
		.onConflictDoNothing({ target: measurements.clientId })
		.returning();
	return row;
}

export async function withdrawMeasurement(db: Connection, pieceId: string, id: string, why: string, by: string) {
	const piece = await getPiece(db, pieceId);
	if (piece.state === 'handed-over') throw new StateError('piece', `Piece ${piece.serial} is handed over: its readings are closed`);
	const [row] = await db
		.update(measurements)
		.set({ withdrawnAt: new Date(), withdrawnBy: by, withdrawnWhy: why })
		.where(and(eq(measurements.id, id), eq(measurements.pieceId, pieceId), isNull(measurements.withdrawnAt)))
		.returning();
	if (!row) throw new MissingError('This reading');
	return row;
}

export async function signatureOf(db: Connection, pieceId: string) {
	const [row] = await db
		.select({
			statement: signatures.statement,
			accepted: signatures.accepted,
			signedAt: signatures.signedAt,
			person: people.name,
			revision: planRevisions.revision
		})
		.from(signatures)
		.innerJoin(people, eq(people.id, signatures.signedBy))
		.innerJoin(planRevisions, eq(planRevisions.id, signatures.planRevisionId))
		.where(eq(signatures.pieceId, pieceId));
	return row;
}

/** The inspector's signature closes the piece. */
export async function sign(db: Database, pieceId: string, statement: string, accepted: boolean, by: string) {
	return db.transaction(async (tx) => {
		const [piece] = await tx.select().from(pieces).where(eq(pieces.id, pieceId)).for('update');
		if (!piece) throw new MissingError('This piece');
		if (piece.state === 'handed-over') throw new StateError('piece', `Piece ${piece.serial} is already handed over`);
		if (piece.state !== 'welded') throw new StateError('piece', `Piece ${piece.serial} is not finished at the bench yet`);
		const revision = await revisionOfPiece(tx, pieceId);
		await tx.insert(signatures).values({ pieceId, planRevisionId: revision!, statement, accepted, signedBy: by });
		await tx.update(pieces).set({ state: 'handed-over' }).where(eq(pieces.id, pieceId));
	});
}
