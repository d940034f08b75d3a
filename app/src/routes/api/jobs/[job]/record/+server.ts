import { answer, auditOf, idOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { asFile, fileName } from '$lib/server/sheet';
import { writeAudit } from '$store/audit';
import { getDb } from '$store/database';
import { recordOf } from '$store/record';

/** Everything of a job: plans, logs, readings, signatures. */
export const GET = (event) =>
	answer(async () => {
		const id = idOf(event.params.job, 'This job');
		const record = await recordOf(getDb(), id, async (r) => (await benchPlanOf(r)).steps);
		await writeAudit(getDb(), 'exported', { ...auditOf(event), about: `record of ${record.number} ${record.job.name}` });
		return asFile(`${JSON.stringify(record, null, '\t')}\n`, 'application/json', `${fileName(record.job.name)}.sarta-record.json`);
	});
