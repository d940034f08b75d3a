import { json } from '@sveltejs/kit';
import { answer, idOf, readBody } from '$lib/server/api';
import { SimulateBody } from '$lib/server/dto';
import { isSimulating, pressSimulated, startSimulated, stopSimulated } from '$lib/server/simulated';
import { getDb } from '$store/database';
import { getDevice, renewToken } from '$store/devices';
import { StateError } from '$store/jobs';

/** Starts or ends the small program that stands in for a device, or presses its switch. */
export const POST = (event) =>
	answer(async () => {
		const device = await getDevice(getDb(), idOf(event.params.device, 'This device'));
		if (!device.isSimulated) throw new StateError('device', `${device.name} is a real one: it is switched on where it stands`);
		const { what } = await readBody(event.request, SimulateBody);
		if (what === 'start') startSimulated(device, await renewToken(getDb(), device.id));
		else if (what === 'stop') stopSimulated(device.id);
		else pressSimulated(device.id);
		return json({ isRunning: isSimulating(device.id) });
	});
