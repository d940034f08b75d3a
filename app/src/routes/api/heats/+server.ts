import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { HeatBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addHeat, listHeats } from '$store/library';

export const GET = () => answer(async () => json({ heats: await listHeats(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const b = await readBody(event.request, HeatBody);
		return json({ heat: await addHeat(getDb(), b, personOf(event).id) }, { status: 201 });
	});
