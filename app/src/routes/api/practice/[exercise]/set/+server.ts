import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { PracticeSetBody } from '$lib/server/dto';
import { exerciseId } from '$lib/server/practice';
import { getDb } from '$store/database';
import { listPeople } from '$store/library';
import { MissingError } from '$store/jobs';
import { setExercise } from '$store/practice';

/** A planner sets somebody an exercise. */
export const POST = (event) =>
	answer(async () => {
		const id = exerciseId(event.params.exercise);
		const person = idOf((await readBody(event.request, PracticeSetBody)).person, 'This person');
		const db = getDb();
		if (!(await listPeople(db)).some((p) => p.id === person && !p.archivedAt)) throw new MissingError('This person');
		await setExercise(db, id, person, personOf(event).id);
		return json({}, { status: 201 });
	});
