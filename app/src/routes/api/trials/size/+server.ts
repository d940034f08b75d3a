import { json } from '@sveltejs/kit';
import { answer, readBody } from '$lib/server/api';
import { TrialSizeBody } from '$lib/server/dto';
import { sizeTrial } from '$lib/server/trials';

/** What each way is foretold to come to, and how far one piece lies from the next: nothing is made. */
export const POST = (event) => answer(async () => json(await sizeTrial(await readBody(event.request, TrialSizeBody))));
