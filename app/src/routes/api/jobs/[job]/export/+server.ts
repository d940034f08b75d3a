import { writeJobFile } from '$core/formats/jobFile';
import { answer, idOf } from '$lib/server/api';
import { getDb } from '$store/database';
import { currentPlan, getJob } from '$store/jobs';

export const GET = ({ params }) =>
	answer(async () => {
		const id = idOf(params.job, 'This job');
		const job = await getJob(getDb(), id);
		const { document } = await currentPlan(getDb(), id);
		const header = {
			name: job.name,
			quantity: job.quantity,
			...(job.customer ? { customer: job.customer } : {}),
			...(job.dueDate ? { dueDate: job.dueDate } : {}),
			...(job.notes ? { notes: job.notes } : {})
		};
		const safe =
			job.name
				.replace(/[^A-Za-z0-9 _-]/g, '')
				.trim()
				.replace(/ +/g, '-') || 'job';
		return new Response(writeJobFile(header, document), {
			headers: { 'content-type': 'application/json', 'content-disposition': `attachment; filename="${safe}.sarta.json"` }
		});
	});
