import { answer, idOf } from '$lib/server/api';
import { asJpeg } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { pictureOf } from '$store/photographs';

/** One photograph; `?small` for lists. */
export const GET = ({ params, url }) =>
	answer(async () => {
		const size = url.searchParams.has('small') ? 'small' : 'picture';
		return asJpeg(await pictureOf(getDb(), idOf(params.piece, 'This piece'), idOf(params.photograph, 'This photograph'), size));
	});
