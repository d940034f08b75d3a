import { writeJobFile } from '$core/formats/jobFile';
import { answer, auditOf, idOf } from '$lib/server/api';
import { asFile, fileName } from '$lib/server/sheet';
import { writeAudit } from '$store/audit';
import { getDb } from '$store/database';
import { currentPlan, getJob } from '$store/jobs';
import { headerOf } from '$store/record';

export const GET = (event) =>
	answer(async () => {
		const id = idOf(event.params.job, 'This job');
		const job = await getJob(getDb(), id);
		const { document } = await currentPlan(getDb(), id);
		await writeAudit(getDb(), 'exported', { ...auditOf(event), about: `job file of ${job.number} ${job.name}` });
		return asFile(writeJobFile(headerOf(job), document), 'application/json', `${fileName(job.name)}.sarta.json`);
	});
