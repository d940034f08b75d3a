import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { holdSheet } from '$lib/server/prepSheets';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored } = await sheetOf(idOf(event.params.job, 'This job'), 'Hold sheet', personOf(event));
		return asPdf(await holdSheet(head, plan, await benchPlanOf(stored), personOf(event).units), 'hold-sheet');
	});
