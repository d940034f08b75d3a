import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { TrialAdoptBody } from '$lib/server/dto';
import { adoptWay } from '$lib/server/trialAdopted';
import { getDb } from '$store/database';
import { getTrial } from '$store/trials';

/** A way of the trial put into the plan of an open job: its draft, or a new one over an issued plan. */
export const POST = (event) =>
	answer(async () => {
		const trial = await getTrial(getDb(), idOf(event.params.trial, 'This trial'));
		const { job, way } = await readBody(event.request, TrialAdoptBody);
		const saved = await adoptWay(trial, way, job, personOf(event).id);
		return json({ job, revision: saved.revision, state: saved.state });
	});
