import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBytes } from '$lib/server/api';
import { PhotographQuery } from '$lib/server/dto';
import { queryAs } from '$lib/server/parse';
import { keptPhotograph, PHOTOGRAPH_LIMIT } from '$lib/server/photograph';
import { getDb } from '$store/database';
import { getPiece } from '$store/jobs';
import { addPhotograph, photographsOf } from '$store/photographs';

export const GET = ({ params }) => answer(async () => json({ photographs: await photographsOf(getDb(), idOf(params.piece, 'This piece')) }));

/** The body is the picture; what belongs to it stands in the address. */
export const POST = (event) =>
	answer(async () => {
		const piece = idOf(event.params.piece, 'This piece');
		const { takenAt, ...asked } = queryAs(PhotographQuery, event.url, []);
		await getPiece(getDb(), piece);
		const kept = await keptPhotograph(await readBytes(event.request, PHOTOGRAPH_LIMIT));
		await addPhotograph(getDb(), piece, { ...asked, ...kept, takenAt: new Date(takenAt) }, personOf(event).id);
		return json({ clientId: asked.clientId, widthPx: kept.widthPx, heightPx: kept.heightPx }, { status: 201 });
	});
