import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { MeBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { setUnits } from '$store/library';

export const PATCH = (event) =>
	answer(async () => {
		const { units } = await readBody(event.request, MeBody);
		await setUnits(getDb(), personOf(event).id, units);
		return json({ units });
	});
