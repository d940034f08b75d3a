import { json } from '@sveltejs/kit';
import { answer, auditOf, personOf, readBody } from '$lib/server/api';
import { DeviceBody } from '$lib/server/dto';
import { writeAudit } from '$store/audit';
import { getDb } from '$store/database';
import { addDevice, listDevices } from '$store/devices';

export const GET = () => answer(async () => json({ devices: await listDevices(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const body = await readBody(event.request, DeviceBody);
		const made = await addDevice(getDb(), body, personOf(event).id);
		await writeAudit(getDb(), 'device-added', { ...auditOf(event), about: body.name });
		return json(made, { status: 201 });
	});
