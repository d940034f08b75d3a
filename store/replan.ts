/** A piece that is planned on from where it stands: a revision of its own, that binds it and no other. */
import { desc, eq, and, sql } from 'drizzle-orm';
import type { PlanDocument } from '../core/document/schema';
import { boundTo, eventsOf, holdOpen, type BenchEvent } from './bench';
import type { Database } from './database';
import { searched, StateError } from './jobs';
import { tellOf } from './listening';
import { benchEvents, planRevisions } from './schema';

export interface Adopted {
	/** made by the device, so that a repeated send is one event */
	clientId: string;
	/** what was chosen, in words */
	label: string;
	/** the revision it was worked out on */
	from: string;
	/** the plan from here on, from the log as it stands now. @throws what says why it cannot be taken over any more */
	planNow(log: readonly BenchEvent[]): PlanDocument;
}

/** @returns the id of the piece's new revision. @throws StateError where the piece has gone on to another plan, or is not at the bench */
export async function adoptReplan(db: Database, pieceId: string, adopted: Adopted, by: string): Promise<string> {
	return db.transaction(async (tx) => {
		const piece = await holdOpen(tx, pieceId, 'its plan stays as it is');
		const log = await eventsOf(tx, pieceId);
		const known = log.find((e) => e.clientId === adopted.clientId);
		if (known) return known.planRevisionId;
		const bound = boundTo(log);
		if (!bound || piece.state !== 'in-hand') throw new StateError('piece', `Piece ${piece.serial} is not at the bench`);
		if (bound !== adopted.from) throw new StateError('task', `Piece ${piece.serial} has been planned on meanwhile: ask again`);
		const document = adopted.planNow(log);
		const [base] = await tx.select().from(planRevisions).where(eq(planRevisions.id, bound));
		const [{ variant: last }] = await tx
			.select({ variant: planRevisions.variant })
			.from(planRevisions)
			.where(and(eq(planRevisions.jobId, piece.jobId), eq(planRevisions.revision, base.revision)))
			.orderBy(desc(planRevisions.variant))
			.limit(1);
		const [made] = await tx
			.insert(planRevisions)
			.values({
				jobId: piece.jobId,
				revision: base.revision,
				variant: last + 1,
				pieceId,
				state: 'issued',
				document,
				...searched(document),
				createdBy: by,
				updatedBy: by,
				issuedBy: by,
				issuedAt: sql`now()`
			})
			.returning({ id: planRevisions.id });
		await tx.insert(benchEvents).values({
			clientId: adopted.clientId,
			pieceId,
			planRevisionId: made.id,
			kind: 'replanned',
			note: adopted.label,
			happenedAt: new Date(),
			personId: by
		});
		await tellOf(tx, pieceId);
		return made.id;
	});
}
