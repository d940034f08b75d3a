import { seamResponses } from '$core/response/forPlan';
import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { asPdf, sheetOf } from '$lib/server/sheet';
import { traveller } from '$lib/server/traveller';
import { getDb } from '$store/database';
import { piecesOf } from '$store/jobs';

export const GET = (event) =>
	answer(async () => {
		const job = idOf(event.params.job, 'This job');
		const { head, plan, stored, quantity } = await sheetOf(job, 'Traveller', personOf(event));
		const data = {
			plan,
			quantity,
			responses: seamResponses(plan),
			bench: await benchPlanOf(stored),
			serials: (await piecesOf(getDb(), job)).map((p) => p.serial),
			address: `${event.url.origin}/jobs/${job}/weld-out`
		};
		return asPdf(await traveller(head, data, personOf(event).units), 'traveller');
	});
