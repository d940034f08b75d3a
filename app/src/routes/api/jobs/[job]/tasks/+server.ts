import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { IssueBody } from '$lib/server/dto';
import { factorsOf } from '$lib/server/learning';
import { getDb } from '$store/database';
import { ConflictError, currentPlan } from '$store/jobs';
import { enqueue } from '$store/queue';
import { inputHash, latestTask, taskFor } from '$store/tasks';

/** The full forecast of the plan as it is stored: the newest task for it, if there is one. */
export const GET = ({ params }) =>
	answer(async () => {
		const job = idOf(params.job, 'This job');
		const plan = await currentPlan(getDb(), job);
		const hash = inputHash({ plan: plan.document, factors: await factorsOf(plan.document) });
		return json({ task: (await latestTask(getDb(), job, hash)) ?? null, revision: plan.revision, version: plan.version });
	});

/** Asks for the full forecast of the plan as it is stored; an answer that is there already is given at once. */
export const POST = (event) =>
	answer(async () => {
		const job = idOf(event.params.job, 'This job');
		const base = await readBody(event.request, IssueBody);
		const plan = await currentPlan(getDb(), job);
		if (plan.revision !== base.revision || plan.version !== base.version) throw new ConflictError(plan);
		const { task, fresh } = await taskFor(getDb(), job, { plan: plan.document, factors: await factorsOf(plan.document) }, personOf(event).id);
		if (fresh) await enqueue(task.id);
		return json({ task }, { status: fresh ? 201 : 200 });
	});
