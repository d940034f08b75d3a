import { json } from '@sveltejs/kit';
import { answer, idOf, personOf } from '$lib/server/api';
import { learnFrom } from '$lib/server/learning';
import { getDb } from '$store/database';
import { StateError } from '$store/jobs';
import { addFactors } from '$store/library';

export const GET = ({ params }) => answer(async () => json(await learnFrom(idOf(params.piece, 'This piece'))));

/** Makes the factors worked out from this piece the shop's own. */
export const POST = (event) =>
	answer(async () => {
		const found = await learnFrom(idOf(event.params.piece, 'This piece'));
		if (!found.learned || !found.fresh.length) throw new StateError('measurements', found.why ?? 'There is nothing new to learn from this piece');
		if (!found.learned.converged) throw new StateError('measurements', 'The factors did not settle on these readings: check them for a slip');
		const row = await addFactors(getDb(), found.key, found.learned.posterior, found.fresh, event.params.piece, personOf(event).id);
		return json({ factors: row }, { status: 201 });
	});
