import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { PracticeBody } from '$lib/server/dto';
import { attempt, exerciseId } from '$lib/server/practice';

/** A guess and a plan: welded in the exercise's virtual shop, judged and kept. */
export const POST = (event) =>
	answer(async () => {
		const id = exerciseId(event.params.exercise);
		const { guess, choices } = await readBody(event.request, PracticeBody);
		const done = await attempt(id, personOf(event).id, { way: guess.way ?? 'alike', value: guess.value }, { ...choices });
		const { outcome, score } = done.attempt;
		return json({ outcome, score, plans: done.plans }, { status: 201 });
	});
