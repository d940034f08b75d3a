import { json } from '@sveltejs/kit';
import { answer, idOf, readBody } from '$lib/server/api';
import { DevicePatch } from '$lib/server/dto';
import { stopSimulated } from '$lib/server/simulated';
import { getDb } from '$store/database';
import { saveDevice } from '$store/devices';

export const PATCH = (event) =>
	answer(async () => {
		const id = idOf(event.params.device, 'This device');
		const { piece, isDetached, archived } = await readBody(event.request, DevicePatch);
		await saveDevice(getDb(), id, { pieceId: isDetached ? null : piece, archived });
		if (archived) stopSimulated(id);
		return json({ saved: true });
	});
