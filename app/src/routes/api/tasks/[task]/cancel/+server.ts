import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { cancelTask } from '$store/tasks';

/** Ends a task: what it has found so far is dropped. */
export const POST = ({ params }) => answer(async () => json({ task: await cancelTask(getDb(), idOf(params.task, 'This task')) }));
