import { answer, idOf, personOf } from '$lib/server/api';
import { bendRuleWords, cuttingListOf } from '$lib/server/cutting';
import { cuttingListSheet } from '$lib/server/prepSheets';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, quantity } = await sheetOf(idOf(event.params.job, 'This job'), 'Cutting list', personOf(event));
		return asPdf(await cuttingListSheet(head, cuttingListOf(plan, quantity), quantity, bendRuleWords(plan), personOf(event).units), 'cutting-list');
	});
