import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { JobPatch } from '$lib/server/dto';
import { getDb } from '$store/database';
import { getJob, piecesOf, saveJob } from '$store/jobs';

export const GET = ({ params }) =>
	answer(async () => {
		const id = idOf(params.job, 'This job');
		const [job, pieces] = await Promise.all([getJob(getDb(), id), piecesOf(getDb(), id)]);
		return json({ job, pieces: pieces.map(({ id, serial, state }) => ({ id, serial, state })) });
	});

export const PATCH = (event) =>
	answer(async () => {
		const { version, ...fields } = await readBody(event.request, JobPatch);
		return json({ job: await saveJob(getDb(), idOf(event.params.job, 'This job'), version, fields, personOf(event).id) });
	});
