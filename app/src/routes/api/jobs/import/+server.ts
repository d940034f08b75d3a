import { json } from '@sveltejs/kit';
import { JOB_FILE_LIMIT, jobFileOf } from '$core/formats/jobFile';
import { answer, personOf, readText } from '$lib/server/api';
import { getDb } from '$store/database';
import { createJob } from '$store/jobs';

/** The body is the job file itself. `?name=` gives the new job another name. */
export const POST = (event) =>
	answer(async () => {
		const file = jobFileOf(await readText(event.request, JOB_FILE_LIMIT));
		const name = event.url.searchParams.get('name')?.trim().slice(0, 120);
		const job = await createJob(getDb(), { ...file.job, name: name || file.job.name }, file.plan, personOf(event).id);
		return json({ job }, { status: 201 });
	});
