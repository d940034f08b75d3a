import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, refuse } from '$lib/server/api';
import { allows, RULES } from '$lib/server/permissions';
import { getDb } from '$store/database';
import { dequeue } from '$store/queue';
import { cancelTask, taskHead } from '$store/tasks';

/** Ends a task: what it has found so far is dropped. Who may ask for it may end it. */
export const POST = (event) =>
	answer(async () => {
		const db = getDb();
		const { id, kind } = await taskHead(db, idOf(event.params.task, 'This task'));
		const asked = kind === 'replan' ? '/api/pieces/[piece]/replan' : '/api/jobs/[job]/tasks';
		if (!allows(RULES[asked].POST, personOf(event).roles))
			return refuse(403, 'Only a planner stops what a planner has asked for. Nothing was stopped.');
		const task = await cancelTask(db, id);
		if (task.state === 'cancelled') await dequeue(task.id);
		return json({ task });
	});
