/** Devices at the bench: which there are, at which piece they stand, and what they have sent. */
import type { DeviceKind } from '../core/document/words';
import { createHash, randomBytes } from 'node:crypto';
import { and, asc, eq, gt, isNull, max, sql } from 'drizzle-orm';
import { FaultError } from '../core/document/faults';
import type { DeviceReading } from '../core/devices/readings';
import type { Connection, Database } from './database';
import { getPiece, MissingError, StateError } from './jobs';
import { deviceReadings, devices, jobs, pieces } from './schema';

export type Device = typeof devices.$inferSelect;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** With the piece each stands at. Those put away are not listed. */
export const listDevices = (db: Connection) =>
	db
		.select({
			id: devices.id,
			kind: devices.kind,
			name: devices.name,
			isSimulated: devices.isSimulated,
			pieceId: devices.pieceId,
			piece: sql<string | null>`${jobs.number} || ' ' || ${jobs.name} || ', ' || ${pieces.serial}`,
			lastAt: sql<string | null>`(select r.received_at from device_readings r where r.device_id = ${devices.id} order by r.seq desc limit 1)`
		})
		.from(devices)
		.leftJoin(pieces, eq(pieces.id, devices.pieceId))
		.leftJoin(jobs, eq(jobs.id, pieces.jobId))
		.where(isNull(devices.archivedAt))
		.orderBy(asc(devices.name));

/** @returns its token, which is told once and kept nowhere. @throws FaultError where the name is taken */
export async function addDevice(
	db: Connection,
	d: { kind: DeviceKind; name: string; isSimulated: boolean },
	by: string
): Promise<{ id: string; token: string }> {
	const token = randomBytes(24).toString('base64url');
	const [row] = await db
		.insert(devices)
		.values({ ...d, tokenHash: hashOf(token), createdBy: by })
		.onConflictDoNothing()
		.returning({ id: devices.id });
	if (!row) throw new FaultError([{ field: 'name', value: d.name, allowed: 'there is or was a device of this name: give another' }]);
	return { id: row.id, token };
}

/** A new token in place of the old one, told once. */
export async function renewToken(db: Connection, id: string): Promise<string> {
	const token = randomBytes(24).toString('base64url');
	await db
		.update(devices)
		.set({ tokenHash: hashOf(token) })
		.where(eq(devices.id, id));
	return token;
}

export async function getDevice(db: Connection, id: string): Promise<Device> {
	const [row] = await db.select().from(devices).where(eq(devices.id, id));
	if (!row) throw new MissingError('This device');
	return row;
}

/** Put at a piece, taken from it, or put away. One of a kind stands at a piece. */
export async function saveDevice(db: Database, id: string, change: { pieceId?: string | null; archived?: boolean }): Promise<void> {
	await db.transaction(async (tx) => {
		const device = await getDevice(tx, id);
		if (change.pieceId) {
			const piece = await getPiece(tx, change.pieceId);
			if (piece.state === 'handed-over') throw new StateError('piece', `Piece ${piece.serial} is handed over: nothing is measured on it any more`);
			await tx
				.update(devices)
				.set({ pieceId: null })
				.where(and(eq(devices.pieceId, change.pieceId), eq(devices.kind, device.kind)));
		}
		await tx
			.update(devices)
			.set({
				...(change.pieceId === undefined ? {} : { pieceId: change.pieceId }),
				...(change.archived === undefined ? {} : { archivedAt: change.archived ? new Date() : null, ...(change.archived ? { pieceId: null } : {}) })
			})
			.where(eq(devices.id, id));
	});
}

export async function deviceByToken(db: Connection, token: string): Promise<Device | undefined> {
	const [row] = await db
		.select()
		.from(devices)
		.where(and(eq(devices.tokenHash, hashOf(token)), isNull(devices.archivedAt)));
	return row;
}

/** Once, however often they are sent. */
export async function addReadings(db: Connection, device: Device & { pieceId: string }, readings: readonly DeviceReading[]): Promise<void> {
	if (readings.length)
		await db
			.insert(deviceReadings)
			.values(readings.map((reading) => ({ id: reading.id, deviceId: device.id, pieceId: device.pieceId, at: new Date(reading.at), reading })))
			.onConflictDoNothing();
}

/** Readings in one answer. */
const MOST = 2000;

/** What stands at a piece, and what it has sent after a number; `last` begins the next question. */
export async function atPiece(db: Connection, pieceId: string, after: number) {
	const at = await db
		.select({ id: devices.id, kind: devices.kind, name: devices.name, isSimulated: devices.isSimulated })
		.from(devices)
		.where(and(eq(devices.pieceId, pieceId), isNull(devices.archivedAt)));
	const rows = await db
		.select({ seq: deviceReadings.seq, deviceId: deviceReadings.deviceId, reading: deviceReadings.reading })
		.from(deviceReadings)
		.where(and(eq(deviceReadings.pieceId, pieceId), gt(deviceReadings.seq, after)))
		.orderBy(asc(deviceReadings.seq))
		.limit(MOST);
	return { devices: at, readings: rows, last: rows[rows.length - 1]?.seq ?? after };
}
/** The number of the newest reading of a piece: a page that opens begins there. */
export async function newestReading(db: Connection, pieceId: string): Promise<number> {
	const [row] = await db
		.select({ last: max(deviceReadings.seq) })
		.from(deviceReadings)
		.where(eq(deviceReadings.pieceId, pieceId));
	return row.last ?? 0;
}
