import { answer, idOf } from '$lib/server/api';
import { benchStream } from '$lib/server/stream';

/** Says which piece's log grew, as it grows. */
export const GET = ({ url, request }) =>
	answer(async () => {
		const piece = url.searchParams.get('piece');
		return Promise.resolve(benchStream(request.signal, piece === null ? undefined : idOf(piece, 'This piece')));
	});
