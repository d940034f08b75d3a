import { json } from '@sveltejs/kit';
import { checkPlan } from '$core/plan/check';
import { FaultError } from '$core/plan/faults';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { PlanBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { currentPlan, savePlan } from '$store/jobs';

export const GET = ({ params }) => answer(async () => json({ plan: await currentPlan(getDb(), idOf(params.job, 'This job')) }));

export const PUT = (event) =>
	answer(async () => {
		const body = await readBody(event.request, PlanBody);
		const faults = checkPlan(body.plan);
		if (faults.length) throw new FaultError(faults);
		const saved = await savePlan(getDb(), idOf(event.params.job, 'This job'), body, body.plan, personOf(event).id);
		return json({ id: saved.id, revision: saved.revision, version: saved.version, state: saved.state });
	});
