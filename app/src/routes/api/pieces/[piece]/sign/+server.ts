import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { SignBody } from '$lib/server/dto';
import { sign } from '$store/bench';
import { getDb } from '$store/database';

export const POST = (event) =>
	answer(async () => {
		const b = await readBody(event.request, SignBody);
		await sign(getDb(), idOf(event.params.piece, 'This piece'), b.statement, b.accepted, personOf(event).id);
		return json({}, { status: 201 });
	});
