import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { AfterQuery } from '$lib/server/dto';
import { queryAs } from '$lib/server/parse';
import { getDb } from '$store/database';
import { atPiece } from '$store/devices';

export const GET = ({ params, url }) =>
	answer(async () => {
		const { after } = queryAs(AfterQuery, url, ['after']);
		return json(await atPiece(getDb(), idOf(params.piece, 'This piece'), after));
	});
