import { answer } from '$lib/server/api';
import { sheetInThread } from '$lib/server/compute';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, unit } = await sheetOf(event, 'Strips, full size');
		return asPdf(await sheetInThread({ sheet: 'strips', head, plan, unit }), 'strips');
	});
