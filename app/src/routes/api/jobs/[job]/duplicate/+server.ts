import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { DuplicateBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { createJob, currentPlan, getJob } from '$store/jobs';

export const POST = (event) =>
	answer(async () => {
		const { name, customer, dueDate, quantity } = await readBody(event.request, DuplicateBody);
		const id = idOf(event.params.job, 'This job');
		const from = await getJob(getDb(), id);
		const { document } = await currentPlan(getDb(), id);
		const job = await createJob(
			getDb(),
			{ name, customer: customer ?? from.customer, dueDate: dueDate ?? null, quantity: quantity ?? from.quantity, notes: from.notes },
			document,
			personOf(event).id
		);
		return json({ job }, { status: 201 });
	});
