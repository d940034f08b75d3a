import { json } from '@sveltejs/kit';
import { answer, idOf, personOf } from '$lib/server/api';
import { learnFrom } from '$lib/server/learning';
import { getDb } from '$store/database';
import { StateError } from '$store/jobs';
import { addLesson } from '$store/lessons';

export const GET = ({ params }) => answer(async () => json(await learnFrom(idOf(params.piece, 'This piece'))));

/** Keeps what this piece teaches as a lesson of the shop. */
export const POST = (event) =>
	answer(async () => {
		const found = await learnFrom(idOf(event.params.piece, 'This piece'));
		if (!found.evidence?.length || !found.context) throw new StateError('measurements', found.why ?? 'There is nothing new to learn from this piece');
		if (!found.settled?.converged) throw new StateError('measurements', 'The factors did not settle on these readings: check them for a slip');
		const lesson = { pieceId: event.params.piece, context: found.context, evidence: found.evidence, factors: found.after! };
		return json({ factors: await addLesson(getDb(), lesson, personOf(event).id) }, { status: 201 });
	});
