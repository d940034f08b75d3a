import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { MissingError } from '$store/jobs';
import { taskResult } from '$store/tasks';

export const GET = ({ params }) =>
	answer(async () => {
		const result = await taskResult(getDb(), idOf(params.task, 'This task'));
		if (!result) throw new MissingError('An answer of this task');
		return json(result);
	});
