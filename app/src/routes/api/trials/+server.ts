import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { TrialBody } from '$lib/server/dto';
import { makeTrial } from '$lib/server/trials';

/** Makes a trial: a job of coupons each way, planned and issued, and the order they are welded in. */
export const POST = (event) =>
	answer(async () => json({ trial: await makeTrial(await readBody(event.request, TrialBody), personOf(event).id) }, { status: 201 }));
