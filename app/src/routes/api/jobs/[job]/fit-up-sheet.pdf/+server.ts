import { seamResponses } from '$core/response/forPlan';
import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { fitUpSheet } from '$lib/server/prepSheets';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored } = await sheetOf(idOf(event.params.job, 'This job'), 'Fit-up sheet', personOf(event));
		return asPdf(await fitUpSheet(head, plan, await benchPlanOf(stored), seamResponses(plan), personOf(event).units), 'fit-up-sheet');
	});
