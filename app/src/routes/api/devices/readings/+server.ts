import { json } from '@sveltejs/kit';
import { readReading, type DeviceReading } from '$core/devices/readings';
import { readLines } from '$core/devices/lines';
import { answer, readText, refuse } from '$lib/server/api';
import { atTheBench } from '$lib/server/atTheBench';
import { getDb } from '$store/database';
import { addReadings, deviceByToken } from '$store/devices';
import { getPiece } from '$store/jobs';

/** A device that was cut off for a while sends what it has kept, in several of these. */
const LIMIT = 200_000;

/** Readings of one device: JSON lines, or CSV with names in its first row. Each is judged by itself. */
export const POST = (event) =>
	answer(async () => {
		const { request } = event;
		const token = /^Bearer (\S{8,100})$/.exec(request.headers.get('authorization') ?? '')?.[1];
		const device = token === undefined ? undefined : await deviceByToken(getDb(), token);
		if (!device) return refuse(401, 'No device of the shop sends with this token.');
		const { pieceId } = device;
		const text = await readText(request, LIMIT);
		if (!pieceId) return refuse(409, `${device.name} stands at no piece: put it at one on the page Devices.`);
		const { state, serial } = await getPiece(getDb(), pieceId);
		if (state === 'handed-over')
			return refuse(409, `Piece ${serial}, where ${device.name} stands, is handed over: nothing is measured on it any more.`);
		const lines = readLines(text, request.headers.get('content-type') ?? '');
		const sound: DeviceReading[] = [];
		const refused: { line: number; message: string }[] = [];
		for (const { line, value, fault } of lines) {
			const { reading, faults } = fault ? { reading: undefined, faults: [fault] } : readReading(device.kind, value);
			if (reading) sound.push(reading);
			else if (refused.length < 50) refused.push({ line, message: faults.map((f) => `${f.field}: ${f.allowed}`).join('; ') });
		}
		await addReadings(getDb(), { ...device, pieceId }, sound);
		return json({ taken: sound.length, refused, ...(event.url.searchParams.has('bench') ? { bench: await atTheBench(pieceId) } : {}) });
	});
