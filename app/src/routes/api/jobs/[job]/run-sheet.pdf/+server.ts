import { benchPlan } from '$core/weldout/benchPlan';
import { answer, idOf, personOf } from '$lib/server/api';
import { runSheet } from '$lib/server/pdf';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan } = await sheetOf(idOf(event.params.job, 'This job'), 'Run sheet', personOf(event));
		return asPdf(await runSheet(head, plan, benchPlan(plan), personOf(event).units), 'run-sheet');
	});
