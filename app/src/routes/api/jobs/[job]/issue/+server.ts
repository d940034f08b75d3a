import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { IssueBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { issuePlan } from '$store/jobs';

export const POST = (event) =>
	answer(async () => {
		const base = await readBody(event.request, IssueBody);
		const issued = await issuePlan(getDb(), idOf(event.params.job, 'This job'), base, personOf(event).id);
		return json({ id: issued.id, revision: issued.revision, version: issued.version, state: issued.state });
	});
