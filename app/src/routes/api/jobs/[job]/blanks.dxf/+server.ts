import { blanksDxf } from '$core/formats/blankDxf';
import { answer } from '$lib/server/api';
import { cuttingListOf } from '$lib/server/cutting';
import { sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { plan, quantity } = await sheetOf(event, 'Blanks');
		return new Response(blanksDxf(cuttingListOf(plan, quantity)), {
			headers: { 'content-type': 'image/vnd.dxf', 'content-disposition': 'attachment; filename="blanks.dxf"' }
		});
	});
