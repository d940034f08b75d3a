import { json } from '@sveltejs/kit';
import { newPlan } from '$core/families/newPlan';
import { FaultError } from '$core/document/faults';
import { answer, personOf, readBody } from '$lib/server/api';
import { JobBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { createJob, listJobs } from '$store/jobs';

export const GET = ({ url }) =>
	answer(async () => json({ jobs: await listJobs(getDb(), url.searchParams.get('search')?.slice(0, 100) ?? '', url.searchParams.has('archived')) }));

export const POST = (event) =>
	answer(async () => {
		const { family, ...fields } = await readBody(event.request, JobBody);
		if (family.kind === 'free')
			throw new FaultError([{ field: 'family.kind', value: 'free', allowed: 'must be a family; a free assembly comes from a job file' }]);
		const made = newPlan(family.kind, family.parameters);
		if (!made.plan) throw new FaultError(made.faults);
		const job = await createJob(getDb(), fields, made.plan, personOf(event).id);
		return json({ job }, { status: 201 });
	});
