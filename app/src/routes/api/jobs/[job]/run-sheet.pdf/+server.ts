import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { runSheet } from '$lib/server/pdf';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored } = await sheetOf(idOf(event.params.job, 'This job'), 'Run sheet', personOf(event));
		return asPdf(await runSheet(head, plan, await benchPlanOf(stored), personOf(event).units), 'run-sheet');
	});
