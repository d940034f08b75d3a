import { error } from '@sveltejs/kit';
import { EXERCISES } from '$core/practice/exercises';
import { EXERCISE_IDS } from '$core/practice/ids';
import { exerciseId, exerciseView } from '$lib/server/practice';
import { getDb } from '$store/database';
import { MissingError } from '$store/jobs';
import { attemptsOf } from '$store/practice';

export const load = async ({ params, locals }) => {
	try {
		const id = exerciseId(params.exercise);
		const view = exerciseView(id);
		const next = EXERCISE_IDS[EXERCISE_IDS.indexOf(id) + 1];
		return {
			// a plan has classes of its own: a page carries plain objects
			exercise: JSON.parse(JSON.stringify(view)) as typeof view,
			attempts: (await attemptsOf(getDb(), locals.person!.id, id)).map(({ score, createdAt, outcome, guess }) => ({
				score,
				createdAt,
				outcome,
				guess
			})),
			next: next && { id: next, title: EXERCISES[next].title }
		};
	} catch (e) {
		if (e instanceof MissingError) error(404, e.message);
		throw e;
	}
};
