import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { ConcludeBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { concludeTrial } from '$store/trials';

/** What the shop takes from it, in its own words, once. */
export const POST = (event) =>
	answer(async () => {
		const { conclusion } = await readBody(event.request, ConcludeBody);
		await concludeTrial(getDb(), idOf(event.params.trial, 'This trial'), conclusion, personOf(event).id, event.getClientAddress());
		return json({ concluded: true });
	});
