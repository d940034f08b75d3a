/** Photographs of a piece: on a step, of a fault or beside a reading. */
import { and, asc, count, eq } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { holdOpen, tappers } from './bench';
import type { Connection, Database } from './database';
import { MissingError, StateError } from './jobs';
import { tellOf } from './listening';
import { people, photographs } from './schema';

/** What one piece may have. A record of several full pieces can be larger than what is read in as one file (RECORD_LIMIT): its job still goes out whole. */
export const MOST_PHOTOGRAPHS = 60;

export type NewPhotograph = Pick<
	typeof photographs.$inferInsert,
	'clientId' | 'step' | 'about' | 'note' | 'picture' | 'small' | 'widthPx' | 'heightPx' | 'takenAt'
> & {
	/** who was signed in on the device when it was taken; absent: whoever sends it */
	stamp?: string;
};
export type Photograph = Awaited<ReturnType<typeof photographsOf>>[number];

const senders = alias(people, 'senders');

/** Without the pictures themselves, in the order they were taken. */
export async function photographsOf(db: Connection, pieceId: string) {
	return db
		.select({
			clientId: photographs.clientId,
			step: photographs.step,
			about: photographs.about,
			note: photographs.note,
			widthPx: photographs.widthPx,
			heightPx: photographs.heightPx,
			takenAt: photographs.takenAt,
			person: people.name,
			sentBy: senders.name
		})
		.from(photographs)
		.innerJoin(people, eq(people.id, photographs.personId))
		.leftJoin(senders, eq(senders.id, photographs.sentBy))
		.where(eq(photographs.pieceId, pieceId))
		.orderBy(asc(photographs.takenAt), asc(photographs.clientId));
}

/** One of them as JPEG. @throws MissingError */
export async function pictureOf(db: Connection, pieceId: string, clientId: string, size: 'picture' | 'small'): Promise<Buffer> {
	const [row] = await db
		.select({ bytes: photographs[size] })
		.from(photographs)
		.where(and(eq(photographs.pieceId, pieceId), eq(photographs.clientId, clientId)));
	if (!row) throw new MissingError('This photograph');
	return row.bytes;
}

/** Once, however often it is sent. @param by whoever is signed in now. @throws StateError once the piece is signed, or has its fill of them */
export async function addPhotograph(db: Database, pieceId: string, { stamp, ...photograph }: NewPhotograph, by: string): Promise<void> {
	await db.transaction(async (tx) => {
		// sent again because the answer was lost: it is here
		const [known] = await tx.select({ pieceId: photographs.pieceId }).from(photographs).where(eq(photographs.clientId, photograph.clientId));
		if (known?.pieceId === pieceId) return;
		if (known) throw new StateError('clientId', 'This photograph is already on another piece');
		const piece = await holdOpen(tx, pieceId, 'no photograph is added to it any more');
		const [{ has }] = await tx.select({ has: count() }).from(photographs).where(eq(photographs.pieceId, pieceId));
		if (has >= MOST_PHOTOGRAPHS)
			throw new StateError('photograph', `Piece ${piece.serial} has ${has} photographs: that is as many as a record holds`);
		const person = (await tappers(tx, [{ stamp }], by))(stamp);
		if (!person) throw new StateError('stamp', 'Nobody is known to have been signed in on this device when it was taken');
		await tx
			.insert(photographs)
			.values({ ...photograph, pieceId, personId: person.id, sentBy: person.id === by ? null : by })
			.onConflictDoNothing({ target: photographs.clientId });
		await tellOf(tx, pieceId);
	});
}
