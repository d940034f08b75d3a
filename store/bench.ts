/** The bench log, measurements and signatures of a piece. */
import { and, count, asc, desc, eq, gt, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { summaryOf } from '../core/corrections/summary';
import type { PlanDocument } from '../core/document/schema';
import type { BenchStep } from '../core/weldout/benchSteps';
import { LOOKED, type EventData } from '../core/weldout/happenings';
import { handOver, type HandOver } from '../core/weldout/handOver';
import { mayTakeBack, standing } from '../core/weldout/logbook';
import { writeAudit, type AuditEntry } from './audit';
import type { Person, Role } from './auth';
import type { Connection, Database, Transaction } from './database';
import { latestRevision, MissingError, StateError } from './jobs';
import { tellOf } from './listening';
import { benchEvents, benchStamps, jobs, measurements, people, pieces, planRevisions, signatures } from './schema';

export interface NewEvent {
	clientId: string;
	kind: (typeof benchEvents.$inferSelect)['kind'];
	step?: string | null;
	note?: string | null;
	happenedAt: Date;
	/** the problem that this closes, or the event that it takes back, by its clientId */
	about?: string | null;
	data?: EventData | null;
	/** who was signed in on the device when it was tapped; absent: whoever sends it */
	stamp?: string | null;
}
export type BenchEvent = Awaited<ReturnType<typeof eventsOf>>[number];

const senders = alias(people, 'senders');

/** Lines of a log in one answer. */
export const LOG_PAGE = 1000;

/** @param after number of the last line that is known already; absent: from the first on, all of them */
export async function eventsOf(db: Connection, pieceId: string, after?: number) {
	const asked = db
		.select({
			seq: benchEvents.seq,
			clientId: benchEvents.clientId,
			planRevisionId: benchEvents.planRevisionId,
			kind: benchEvents.kind,
			step: benchEvents.step,
			note: benchEvents.note,
			happenedAt: benchEvents.happenedAt,
			receivedAt: benchEvents.receivedAt,
			about: benchEvents.about,
			data: benchEvents.data,
			personId: benchEvents.personId,
			person: people.name,
			sentBy: senders.name
		})
		.from(benchEvents)
		.innerJoin(people, eq(people.id, benchEvents.personId))
		.leftJoin(senders, eq(senders.id, benchEvents.sentBy))
		.where(and(eq(benchEvents.pieceId, pieceId), after === undefined ? undefined : gt(benchEvents.seq, after)))
		.orderBy(asc(benchEvents.seq));
	return after === undefined ? asked : asked.limit(LOG_PAGE + 1);
}

/** Pieces that are begun and not handed over, of jobs that are not put away, with the revision each is welded to; those under the torch before those welded, the last touched first. */
export async function piecesAtBench(db: Connection) {
	return db
		.select({
			id: pieces.id,
			serial: pieces.serial,
			state: pieces.state,
			jobId: jobs.id,
			job: sql<string>`${jobs.number} || ' ' || ${jobs.name}`,
			/** the newest it was bound to */
			revisionId: sql<string>`(select e.plan_revision_id from bench_events e where e.piece_id = ${pieces.id} and e.kind in ('started', 'replanned') order by e.seq desc limit 1)`,
			startedAt: benchEvents.happenedAt
		})
		.from(benchEvents)
		.innerJoin(pieces, eq(pieces.id, benchEvents.pieceId))
		.innerJoin(jobs, eq(jobs.id, pieces.jobId))
		.where(and(eq(benchEvents.kind, 'started'), inArray(pieces.state, ['in-hand', 'welded']), isNull(jobs.archivedAt), isNull(pieces.archivedAt)))
		.orderBy(sql`${pieces.state} = 'welded'`, desc(sql`(select max(e.seq) from bench_events e where e.piece_id = ${pieces.id})`));
}

/** Lines that bind a piece to a plan. */
const BINDS: readonly NewEvent['kind'][] = ['started', 'replanned'];

/** Bytes of one answer beyond which the rest is left for the next: notes may be long. */
const MOST_BYTES = 900_000;
/** Of a line without its words. */
const BARE_LINE = 450;
/** What follows a line of a log, as much of it as goes into one answer. */
export interface LogPage {
	after: number;
	events: BenchEvent[];
	more: boolean;
}
export async function logPage(db: Connection, pieceId: string, after: number): Promise<LogPage> {
	const found = await eventsOf(db, pieceId, after);
	let bytes = 0;
	let count = 0;
	while (count < Math.min(found.length, LOG_PAGE) && bytes < MOST_BYTES) {
		const { note, data } = found[count++];
		bytes += BARE_LINE + Buffer.byteLength(JSON.stringify([note, data]));
	}
	return { after, events: found.slice(0, count), more: found.length > count };
}

/** The revision a piece is welded to: the one it was started on, or what it was planned on to since. */
export async function revisionOfPiece(db: Connection, pieceId: string): Promise<string | undefined> {
	const [first] = await db
		.select({ id: benchEvents.planRevisionId })
		.from(benchEvents)
		.where(and(eq(benchEvents.pieceId, pieceId), inArray(benchEvents.kind, [...BINDS])))
		.orderBy(desc(benchEvents.seq))
		.limit(1);
	return first?.id;
}

export const boundTo = (log: readonly Pick<BenchEvent, 'kind' | 'planRevisionId'>[]): string | undefined =>
	log.reduce<string | undefined>((last, e) => (BINDS.includes(e.kind) ? e.planRevisionId : last), undefined);

/** What the log did not take, and why: the rest is in it. */
export interface RefusedEvent {
	clientId: string;
	message: string;
}

export type LineJudge = (line: NewEvent, stands: Iterable<NewEvent>, roles: readonly Role[], about: LogHead | undefined) => string | undefined;

/** Who works at the bench; the others may say something and close a problem. */
const AT_THE_BENCH: readonly Role[] = ['welder', 'planner', 'admin'];
const ANYBODYS: readonly NewEvent['kind'][] = ['note', 'problem-closed', 'hold-signed', 'hold-released'];
/** Who may let a piece go as it is. */
const CONCEDES: readonly Role[] = ['inspector', 'planner', 'admin'];
type LogHead = Pick<NewEvent, 'kind' | 'step'>;
const onceKey = (e: LogHead) => `${e.kind}/${e.step ?? ''}`;
/** Of these there is one a step, or one a piece: a second tap, from another tab or tablet, says nothing new. */
const ONCE: readonly NewEvent['kind'][] = ['started', 'step-done', 'wait-started', 'finished', 'hold-signed', 'hold-released'];

/**
 * Adds to the log, each event judged by itself: one that cannot be taken is told and blocks no other. The same clientId again, or the
 * same step done again, changes nothing. The first event of a piece binds it to the issued plan.
 * @param by whoever is signed in now: stored beside the person whose stamp the tap carries
 * @param after number of the last line the sender knows: answered is what follows it, a page of it
 * @param judge what the plan itself has against a line, in words: a hold that is not signed
 */
export async function addEvents(
	db: Database,
	pieceId: string,
	events: readonly NewEvent[],
	by: string,
	after = 0,
	judge: LineJudge = () => undefined
): Promise<LogPage & { refused: RefusedEvent[] }> {
	return db.transaction(async (tx) => {
		const [piece] = await tx.select().from(pieces).where(eq(pieces.id, pieceId)).for('update');
		if (!piece) throw new MissingError('This piece');
		const log = await eventsOf(tx, pieceId);
		const known = new Set(log.map((e) => e.clientId));
		const stands = new Map(standing(log).map((e): [string, NewEvent] => [e.clientId, e]));
		// to be gone through more than once, as it grows
		const lines: Iterable<NewEvent> = { [Symbol.iterator]: () => stands.values() };
		const once = new Set([...stands.values()].filter((e) => ONCE.includes(e.kind)).map(onceKey));
		const closed = new Set(log.filter((e) => e.kind === 'problem-closed').map((e) => e.about));
		const tapper = await tappers(tx, events, by);
		let revision = boundTo(log);
		let state = piece.state;
		const refused: RefusedEvent[] = [];
		const taken: (typeof benchEvents.$inferInsert)[] = [];
		for (const { stamp, ...e } of events) {
			if (known.has(e.clientId)) continue;
			const refuse = (message: string) => void refused.push({ clientId: e.clientId, message });
			const person = tapper(stamp);
			if (!person) {
				refuse('Nobody is known to have been signed in on this device when it was tapped');
				continue;
			}
			const isOwnHold = e.kind === 'undone' && stands.get(e.about ?? '')?.kind === 'hold-signed';
			const isLooked = e.kind === 'happened' && e.data?.what !== undefined && LOOKED.includes(e.data.what);
			// a non-conformance is anybody's to open; what passes a step is the bench's
			const isOpened = e.kind === 'step-problem' && !e.step;
			if (!ANYBODYS.includes(e.kind) && !isOwnHold && !isLooked && !isOpened && !person.roles.some((r) => AT_THE_BENCH.includes(r))) {
				refuse(`${person.name} does not work at the bench: the role is ${person.roles.join(', ')}`);
				continue;
			}
			if (state === 'handed-over') {
				refuse(`Piece ${piece.serial} is handed over: its log is closed`);
				continue;
			}
			if (ONCE.includes(e.kind) && once.has(onceKey(e))) continue;
			if (e.kind === 'replanned') {
				refuse('A piece is planned on from its bench page');
				continue;
			}
			if (e.kind === 'started') {
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
			const about = stands.get(e.about ?? '');
			const against = judge(e, lines, person.roles, about);
			if (against) {
				refuse(against);
				continue;
			}
			if (e.kind === 'problem-closed') {
				if (about?.kind !== 'step-problem') {
					refuse('There is no such problem on this piece');
					continue;
				}
				if (closed.has(e.about!)) continue;
				if (!e.note?.trim()) {
					refuse('Say what became of the problem');
					continue;
				}
				if (e.data?.decided === 'as-is' && !person.roles.some((r) => CONCEDES.includes(r))) {
					refuse('To use it as it is is a concession: an inspector or a planner decides that');
					continue;
				}
				closed.add(e.about!);
			}
			if (e.kind === 'undone') {
				// another device has taken it back already
				if (!about && known.has(e.about ?? '')) continue;
				if (!about || !mayTakeBack(about.kind)) {
					refuse('There is no such entry to take back on this piece');
					continue;
				}
				stands.delete(e.about!);
				once.delete(onceKey(about));
				if (about.kind === 'finished') state = 'in-hand';
			}
			if (e.kind === 'finished') state = 'welded';
			stands.set(e.clientId, e);
			once.add(onceKey(e));
			known.add(e.clientId);
			taken.push({ ...e, pieceId, planRevisionId: revision!, personId: person.id, sentBy: person.id === by ? null : by });
		}
		const clash = await foreign(tx, taken);
		const fresh = taken.filter((e) => !clash.has(e.clientId!));
		if (fresh.length) await tx.insert(benchEvents).values(fresh);
		if (fresh.length) await tellOf(tx, pieceId);
		if (state !== piece.state && fresh.length) await tx.update(pieces).set({ state }).where(eq(pieces.id, pieceId));
		for (const clientId of clash) refused.push({ clientId, message: 'This entry is already in the log of another piece' });
		return { ...(await logPage(tx, pieceId, after)), refused };
	});
}

/** Entries whose id another piece's log holds already. */
async function foreign(db: Connection, events: readonly { clientId?: string }[]): Promise<Set<string>> {
	const ids = events.map((e) => e.clientId!);
	if (!ids.length) return new Set();
	const rows = await db.select({ clientId: benchEvents.clientId }).from(benchEvents).where(inArray(benchEvents.clientId, ids));
	return new Set(rows.map((r) => r.clientId));
}

/** Who tapped what carries a stamp, and what carries none. */
export async function tappers(db: Connection, events: readonly Pick<NewEvent, 'stamp'>[], by: string) {
	const stamps = [...new Set(events.flatMap((e) => e.stamp ?? []))];
	const stamped = stamps.length
		? await db
				.select({ stamp: benchStamps.id, id: people.id, name: people.name, roles: people.roles })
				.from(benchStamps)
				.innerJoin(people, eq(people.id, benchStamps.personId))
				.where(inArray(benchStamps.id, stamps))
		: [];
	const [sender] = await db.select({ id: people.id, name: people.name, roles: people.roles }).from(people).where(eq(people.id, by));
	return (stamp?: string | null) => (stamp ? stamped.find((s) => s.stamp === stamp) : sender);
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
	return rows.map((r) => ({ ...r.measurements, person: r.people.name, byInspector: r.people.roles.includes('inspector') }));
}

/** The piece's row, held until the transaction ends: a reading and a signature cannot cross. @throws StateError once it is signed */
export async function holdOpen(tx: Transaction, pieceId: string, what: string) {
	const [piece] = await tx.select().from(pieces).where(eq(pieces.id, pieceId)).for('update');
	if (!piece) throw new MissingError('This piece');
	if (piece.state === 'handed-over') throw new StateError('piece', `Piece ${piece.serial} is handed over: ${what}`);
	return piece;
}

export async function addMeasurement(db: Database, pieceId: string, m: NewMeasurement, by: string) {
	return db.transaction(async (tx) => {
		await holdOpen(tx, pieceId, 'its readings are closed');
		const [row] = await tx
			.insert(measurements)
			.values({ ...m, pieceId, measuredBy: by })
			.onConflictDoNothing({ target: measurements.clientId })
			.returning();
		return row;
	});
}

/** @throws StateError where an inspector's reading is withdrawn by somebody who is none */
export async function withdrawMeasurement(
	db: Database,
	pieceId: string,
	id: string,
	why: string,
	by: Pick<Person, 'id' | 'roles'>,
	address?: string
) {
	return db.transaction(async (tx) => {
		const piece = await holdOpen(tx, pieceId, 'its readings are closed');
		const [old] = await tx
			.select({ feature: measurements.feature, roles: people.roles, person: people.name })
			.from(measurements)
			.innerJoin(people, eq(people.id, measurements.measuredBy))
			.where(and(eq(measurements.id, id), eq(measurements.pieceId, pieceId), isNull(measurements.withdrawnAt)));
		if (!old) throw new MissingError('This reading');
		if (old.roles.includes('inspector') && !by.roles.includes('inspector'))
			throw new StateError('reading', `${old.person} read this as an inspector: only an inspector withdraws it`);
		const [row] = await tx
			.update(measurements)
			.set({ withdrawnAt: new Date(), withdrawnBy: by.id, withdrawnWhy: why })
			.where(eq(measurements.id, id))
			.returning();
		await writeAudit(tx, 'reading-withdrawn', { by: by.id, about: `${piece.serial}, ${old.feature}: ${why}`, address });
		return row;
	});
}

export async function signatureOf(db: Connection, pieceId: string) {
	const [row] = await db
		.select({
			statement: signatures.statement,
			accepted: signatures.accepted,
			concession: signatures.concession,
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

export interface NewSignature {
	statement: string;
	accepted: boolean;
	/** why it is accepted though something is outside its limits */
	concession?: string;
}
/** What the piece was welded to, and what the shop lets an inspector sign. */
export interface SigningTerms {
	plan: PlanDocument;
	steps: readonly BenchStep[];
	/** may who tacked or welded on the piece sign it */
	mayHaveWelded: boolean;
}

/** A tap is as old as its device says, but never younger than its arrival: a clock that runs ahead moves nothing into the future. */
export const tappedAt = (e: Pick<BenchEvent, 'happenedAt' | 'receivedAt'>) => Math.min(e.happenedAt.getTime(), e.receivedAt.getTime());

/** How far a piece is from being signed, from its log and readings as they are stored. */
export const handOverOf = (
	{ plan, steps }: Pick<SigningTerms, 'plan' | 'steps'>,
	events: readonly BenchEvent[],
	readings: Awaited<ReturnType<typeof measurementsOf>>
): HandOver =>
	handOver(
		plan,
		steps,
		events.map((e) => ({ ...e, at: tappedAt(e) })),
		readings.filter((r) => !r.withdrawnAt).map((r) => ({ ...r, at: r.measuredAt.getTime() }))
	);

/**
 * The inspector's signature closes the piece. To accept it, nothing may be missing and what is outside needs a reason; to reject it, it
 * need only have been begun: a piece burnt through is rejected as it lies. Judged inside the transaction that holds the piece.
 */
export async function sign(db: Database, pieceId: string, s: NewSignature, terms: SigningTerms, { by, address }: AuditEntry & { by: string }) {
	return db.transaction(async (tx) => {
		const piece = await holdOpen(tx, pieceId, 'it is signed already');
		const [events, readings] = [await eventsOf(tx, pieceId), await measurementsOf(tx, pieceId)];
		const revision = boundTo(events);
		if (!revision) throw new StateError('piece', `Piece ${piece.serial} has not been started: there is nothing to sign`);
		const torch = new Set(terms.steps.filter((x) => x.kind === 'tack' || x.kind === 'run').map((x) => x.id));
		if (!terms.mayHaveWelded && events.some((e) => e.personId === by && (e.kind === 'step-done' || e.kind === 'laid') && torch.has(e.step ?? '')))
			throw new StateError('person', 'You have tacked or welded on this piece: in this shop another inspector signs it');
		const found = handOverOf(terms, events, readings);
		const { missing, outside } = found;
		if (s.accepted && missing.length) throw new StateError('piece', `Piece ${piece.serial} cannot be accepted yet. ${missing.join('. ')}`);
		if (s.accepted && outside.length && !s.concession)
			throw new StateError(
				'concession',
				`${terms.plan.decision === 'guard-band' ? 'Outside its limits, or not proved inside' : 'Outside its limits'}: ${outside.join(', ')}. To accept the piece all the same, give the reason for the concession`
			);
		await tx.insert(signatures).values({
			pieceId,
			planRevisionId: revision,
			statement: s.statement,
			accepted: s.accepted,
			concession: s.accepted && outside.length ? s.concession : null,
			summary: summaryOf(
				terms.plan,
				events.map((e) => ({ ...e, at: tappedAt(e) })),
				readings.filter((r) => !r.withdrawnAt).map((r) => ({ ...r, at: r.measuredAt.getTime() })),
				found
			),
			signedBy: by
		});
		await tx.update(pieces).set({ state: 'handed-over' }).where(eq(pieces.id, pieceId));
		await writeAudit(tx, 'signed', { by, about: `${piece.serial}: ${s.accepted ? 'accepted' : 'rejected'}`, address });
	});
}

/** What coupons have been read at, free of clamps and not withdrawn, with the plan each was welded to. */
export const couponReadings = (db: Connection) =>
	db
		.select({
			piece: pieces.serial,
			feature: measurements.feature,
			value: measurements.value,
			uncertainty90: measurements.uncertainty90,
			plan: planRevisions.document
		})
		.from(measurements)
		.innerJoin(pieces, eq(pieces.id, measurements.pieceId))
		.innerJoin(jobs, eq(jobs.id, pieces.jobId))
		.innerJoin(planRevisions, eq(planRevisions.id, measurements.planRevisionId))
		.where(and(isNotNull(jobs.coupon), eq(measurements.moment, 'unclamped'), isNull(measurements.withdrawnAt)))
		.orderBy(measurements.measuredAt);
