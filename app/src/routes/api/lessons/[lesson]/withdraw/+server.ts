import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { WithdrawBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { withdrawLesson } from '$store/lessons';

/** Takes a lesson out of what the shop has learned, with the reason kept beside it: everything is worked out anew without it. */
export const POST = (event) =>
	answer(async () => {
		const { why } = await readBody(event.request, WithdrawBody);
		await withdrawLesson(getDb(), idOf(event.params.lesson, 'This lesson'), why, personOf(event).id, event.getClientAddress());
		return json({ withdrawn: true });
	});
