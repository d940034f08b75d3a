import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { dequeue } from '$store/queue';
import { cancelTask } from '$store/tasks';

/** Ends a task: what it has found so far is dropped. */
export const POST = ({ params }) =>
	answer(async () => {
		const task = await cancelTask(getDb(), idOf(params.task, 'This task'));
		if (task.state === 'cancelled') await dequeue(task.id);
		return json({ task });
	});
