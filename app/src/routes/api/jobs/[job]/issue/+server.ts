import { json } from '@sveltejs/kit';
import { accessFindings } from '$core/fitup/access';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { FaultError } from '$core/document/faults';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { IssueBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { currentPlan, issuePlan } from '$store/jobs';

export const POST = (event) =>
	answer(async () => {
		const base = await readBody(event.request, IssueBody);
		const job = idOf(event.params.job, 'This job');
		// an order that shuts in what is still to be welded does not go to the bench
		const { document } = await currentPlan(getDb(), job);
		const refused = accessFindings(document, assemblyMesh(document)).filter((f) => f.kind === 'refused');
		if (refused.length) throw new FaultError(refused.map((f) => ({ field: 'fitUp.order', value: `step ${f.step + 1}`, allowed: f.words })));
		const issued = await issuePlan(getDb(), job, base, personOf(event).id);
		return json({ id: issued.id, revision: issued.revision, version: issued.version, state: issued.state });
	});
