/** Scans of a piece: how the whole of it lay, as the scan page laid them. */
import { and, asc, count, eq } from 'drizzle-orm';
import { holdOpen } from './bench';
import type { Connection, Database } from './database';
import { MissingError, StateError } from './jobs';
import { tellOf } from './listening';
import { people, scans } from './schema';

/** What one piece may have. */
export const MOST_SCANS = 20;

export type NewScan = Omit<typeof scans.$inferInsert, 'pieceId' | 'measuredBy' | 'measuredAt'>;
export type Scan = Awaited<ReturnType<typeof scansOf>>[number];

/** Without the shapes themselves, in the order they were kept. */
export const scansOf = (db: Connection, pieceId: string) =>
	db
		.select({
			clientId: scans.clientId,
			planRevisionId: scans.planRevisionId,
			moment: scans.moment,
			posture: scans.posture,
			file: scans.file,
			instrument: scans.instrument,
			metalC: scans.metalC,
			isFromDatum: scans.isFromDatum,
			points: scans.points,
			scatterMm: scans.scatterMm,
			measuredAt: scans.measuredAt,
			person: people.name
		})
		.from(scans)
		.innerJoin(people, eq(people.id, scans.measuredBy))
		.where(eq(scans.pieceId, pieceId))
		.orderBy(asc(scans.measuredAt), asc(scans.clientId));

/** One of them, as it is kept. @throws MissingError */
export async function shapeOf(db: Connection, pieceId: string, clientId: string): Promise<Buffer> {
	const [row] = await db
		.select({ shape: scans.shape })
		.from(scans)
		.where(and(eq(scans.pieceId, pieceId), eq(scans.clientId, clientId)));
	if (!row) throw new MissingError('This scan');
	return row.shape;
}

/** Once, however often it is sent. @throws StateError once the piece is signed, or has its fill of them */
export async function addScan(db: Database, pieceId: string, scan: NewScan, by: string): Promise<void> {
	await db.transaction(async (tx) => {
		const [known] = await tx.select({ pieceId: scans.pieceId }).from(scans).where(eq(scans.clientId, scan.clientId));
		if (known?.pieceId === pieceId) return;
		if (known) throw new StateError('clientId', 'This scan is already on another piece');
		const piece = await holdOpen(tx, pieceId, 'its readings are closed');
		const [{ has }] = await tx.select({ has: count() }).from(scans).where(eq(scans.pieceId, pieceId));
		if (has >= MOST_SCANS) throw new StateError('scan', `Piece ${piece.serial} has ${has} scans: that is as many as a record holds`);
		await tx.insert(scans).values({ ...scan, pieceId, measuredBy: by });
		await tellOf(tx, pieceId);
	});
}
