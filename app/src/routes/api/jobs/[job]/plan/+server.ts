import { json } from '@sveltejs/kit';
import { FaultError } from '$core/document/faults';
import { answer, BODY_LIMIT, idOf, personOf, readText } from '$lib/server/api';
import { readPlanBody } from '$lib/server/compute';
import { getDb } from '$store/database';
import { currentPlan, revisionNumbered, savePlan } from '$store/jobs';

/** The newest revision, or the one asked for by `?revision=N`. */
export const GET = ({ params, url }) =>
	answer(async () => {
		const job = idOf(params.job, 'This job');
		const asked = url.searchParams.get('revision');
		if (asked === null) return json({ plan: await currentPlan(getDb(), job) });
		if (!/^[1-9]\d{0,5}$/.test(asked)) throw new FaultError([{ field: 'revision', value: asked, allowed: 'a revision number, 1 or more' }]);
		return json({ plan: await revisionNumbered(getDb(), job, Number(asked)) });
	});

export const PUT = (event) =>
	answer(async () => {
		const body = await readPlanBody(await readText(event.request, BODY_LIMIT));
		const saved = await savePlan(getDb(), idOf(event.params.job, 'This job'), body, body.plan, personOf(event).id);
		return json({ id: saved.id, revision: saved.revision, version: saved.version, state: saved.state });
	});
