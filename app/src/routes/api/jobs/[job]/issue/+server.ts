import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody, refuse } from '$lib/server/api';
import { benchPlanOf, findingsOf } from '$lib/server/compute';
import { IssueBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { currentPlan, issuePlan } from '$store/jobs';

export const POST = (event) =>
	answer(async () => {
		const base = await readBody(event.request, IssueBody);
		const job = idOf(event.params.job, 'This job');
		// what cannot be carried out does not go to the bench
		const { document } = await currentPlan(getDb(), job);
		const refused = (await findingsOf(document)).filter((f) => f.kind === 'refused');
		if (refused.length)
			return refuse(
				422,
				'This plan cannot be carried out as it stands, so it stays a draft.',
				refused.map((f) => ({ field: f.holdDown ? 'holdDowns' : f.joint ? 'fitUp.order' : 'runs', value: '', allowed: f.words }))
			);
		const issued = await issuePlan(getDb(), job, base, personOf(event).id);
		// the bench asks for the steps next: they are begun now, and the first tablet does not wait
		void benchPlanOf(issued).catch(() => undefined);
		return json({ id: issued.id, revision: issued.revision, version: issued.version, state: issued.state });
	});
