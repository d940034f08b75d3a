import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { taskHead } from '$store/tasks';

export const GET = ({ params }) => answer(async () => json({ task: await taskHead(getDb(), idOf(params.task, 'This task')) }));
