import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { marksSheet } from '$lib/server/pdf';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored } = await sheetOf(idOf(event.params.job, 'This job'), 'Marks sheet', personOf(event));
		return asPdf(await marksSheet(head, plan, await benchPlanOf(stored), personOf(event).units), 'marks-sheet');
	});
