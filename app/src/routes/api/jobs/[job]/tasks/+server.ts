import { json } from '@sveltejs/kit';
import { DEFAULT_GOALS, type SearchGoals } from '$core/search/cost';
import { orderIsTied } from '$core/search/orderModel';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { TaskBody, type GoalsBody } from '$lib/server/dto';
import { factorsOf } from '$lib/server/learning';
import { getDb } from '$store/database';
import { ConflictError, currentPlan } from '$store/jobs';
import { enqueue } from '$store/queue';
import { inUse } from '$store/registers';
import { TASK_KINDS, type TaskKind } from '$store/schema';
import { inputHash, isSamePlan, latestTask, newestTask, taskFor } from '$store/tasks';
import { Refusal } from '$core/refusal/refusal';

const goalsOf = ({ weights, ...rest }: GoalsBody): SearchGoals => ({
	...DEFAULT_GOALS,
	...rest,
	features: Object.fromEntries(weights.map((w) => [w.id, w.weight]))
});

/** The newest task of a kind: of a full forecast, for the plan as it stands; of a search or an advice, with whether its plan still is this one. */
export const GET = ({ params, url }) =>
	answer(async () => {
		const job = idOf(params.job, 'This job');
		const asked = url.searchParams.get('kind') ?? 'full-forecast';
		const kind = TASK_KINDS.find((k) => k === asked) as TaskKind | undefined;
		if (!kind) throw new Refusal(`kind is “${asked}”: must be one of ${TASK_KINDS.join(', ')}`);
		const plan = await currentPlan(getDb(), job);
		const at = { revision: plan.revision, version: plan.version };
		if (kind === 'full-forecast') {
			const hash = inputHash(kind, { plan: plan.document, factors: await factorsOf(plan.document) });
			return json({ task: (await latestTask(getDb(), job, kind, hash)) ?? null, ...at });
		}
		const newest = await newestTask(getDb(), job, kind);
		return json({
			task: newest?.task ?? null,
			ask: newest?.input.ask ?? null,
			ofThisPlan: newest ? isSamePlan(newest.input.plan, plan.document) : false,
			...at
		});
	});

/** Asks for a computation on the plan as it is stored; an answer that is there already is given at once. */
export const POST = (event) =>
	answer(async () => {
		const job = idOf(event.params.job, 'This job');
		const body = await readBody(event.request, TaskBody);
		const plan = await currentPlan(getDb(), job);
		if (plan.revision !== body.revision || plan.version !== body.version) throw new ConflictError(plan);
		const tied = body.kind === 'order-search' ? orderIsTied(plan.document) : undefined;
		if (tied) throw new Refusal(tied);
		const input = {
			plan: plan.document,
			factors: await factorsOf(plan.document),
			...(body.kind === 'proposal' && { stock: (await inUse(getDb())).map(({ kind, item }) => ({ kind, item })) }),
			...(body.kind === 'full-forecast'
				? {}
				: { ask: { goals: body.goals ? goalsOf(body.goals) : DEFAULT_GOALS, full: body.full, runLengthMm: body.runLengthMm } })
		};
		const { task, fresh } = await taskFor(getDb(), job, body.kind, input, personOf(event).id);
		if (fresh) await enqueue(task.id);
		return json({ task }, { status: fresh ? 201 : 200 });
	});
