import { json } from '@sveltejs/kit';
import { JOB_FILE_LIMIT, RECORD_LIMIT } from '$core/formats/limits';
import { readInThread } from '$lib/server/compute';
import { answer, auditOf, personOf, readText } from '$lib/server/api';
import { writeAudit } from '$store/audit';
import { getDb } from '$store/database';
import { createJob } from '$store/jobs';
import { importRecord } from '$store/record';

/** The body is a job file, or the record of a job. `?name=` gives the new job another name. */
export const POST = (event) =>
	answer(async () => {
		const isLarge = Number(event.request.headers.get('content-length') ?? 0) > JOB_FILE_LIMIT;
		const text = await readText(event.request, isLarge && event.url.searchParams.has('record') ? RECORD_LIMIT : JOB_FILE_LIMIT);
		const asked = event.url.searchParams.get('name')?.trim().slice(0, 120);
		const by = personOf(event).id;
		const { record, file } = await readInThread(text);
		if (record) {
			const job = await importRecord(getDb(), record, asked || record.job.name, by);
			await writeAudit(getDb(), 'imported', { ...auditOf(event), about: `record of ${record.number} ${record.job.name} as ${job.number}` });
			return json({ job }, { status: 201 });
		}
		const job = await createJob(getDb(), { ...file.job, name: asked || file.job.name }, file.plan, by);
		await writeAudit(getDb(), 'imported', { ...auditOf(event), about: `job file of ${file.job.name} as ${job.number}` });
		return json({ job }, { status: 201 });
	});
