import { answer } from '$lib/server/api';
import { sheetInThread } from '$lib/server/compute';
import { asPdf, sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, quantity, unit } = await sheetOf(event, 'Cutting list');
		return asPdf(await sheetInThread({ sheet: 'cutting-list', head, plan, quantity, unit }), 'cutting-list');
	});
