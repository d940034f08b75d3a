import { cuttingListCsv } from '$core/families/cuttingList';
import { answer } from '$lib/server/api';
import { cuttingListOf } from '$lib/server/cutting';
import { sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { plan, quantity } = await sheetOf(event, 'Cutting list');
		return new Response(cuttingListCsv(cuttingListOf(plan, quantity)), {
			headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="cutting-list.csv"' }
		});
	});
