import { EXERCISES } from '$core/practice/exercises';
import { EXERCISE_IDS } from '$core/practice/ids';
import { getDb } from '$store/database';
import { listPeople } from '$store/library';
import { progress } from '$store/practice';

export const load = async ({ locals }) => {
	const db = getDb();
	const me = locals.person!;
	const { done, set } = await progress(db);
	const best = (person: string, exercise: string) => {
		const own = done.filter((d) => d.person === person && d.exercise === exercise).map((d) => d.score);
		return own.length ? Math.max(...own) : undefined;
	};
	const maySet = me.roles.some((r) => r === 'planner' || r === 'admin');
	return {
		exercises: EXERCISE_IDS.map((id) => ({
			id,
			title: EXERCISES[id].title,
			piece: EXERCISES[id].piece,
			best: best(me.id, id),
			setBy: set.find((s) => s.person === me.id && s.exercise === id)?.by
		})),
		people: maySet
			? (await listPeople(db))
					.filter((p) => !p.archivedAt)
					.map((p) => ({
						id: p.id,
						name: p.name,
						isLearner: p.roles.includes('learner'),
						done: EXERCISE_IDS.filter((id) => best(p.id, id) !== undefined).length,
						mean: mean(EXERCISE_IDS.flatMap((id) => best(p.id, id) ?? [])),
						waiting: set.filter((s) => s.person === p.id && best(p.id, s.exercise) === undefined).map((s) => EXERCISES[s.exercise].title)
					}))
			: []
	};
};
const mean = (list: number[]) => (list.length ? Math.round(list.reduce((s, v) => s + v, 0) / list.length) : undefined);
