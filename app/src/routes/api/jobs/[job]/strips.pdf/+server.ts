import { answer, idOf, personOf } from '$lib/server/api';
import { asPdf, sheetOf } from '$lib/server/sheet';
import { stripsSheet } from '$lib/server/traveller';

export const GET = (event) =>
	answer(async () => {
		const { head, plan } = await sheetOf(idOf(event.params.job, 'This job'), 'Strips, full size', personOf(event));
		return asPdf(await stripsSheet(head, plan), 'strips');
	});
