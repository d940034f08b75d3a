import { blanksDxf } from '$core/formats/blankDxf';
import { answer, idOf, personOf } from '$lib/server/api';
import { cuttingListOf } from '$lib/server/cutting';
import { sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { plan, quantity } = await sheetOf(idOf(event.params.job, 'This job'), 'Blanks', personOf(event));
		return new Response(blanksDxf(cuttingListOf(plan, quantity)), {
			headers: { 'content-type': 'image/vnd.dxf', 'content-disposition': 'attachment; filename="blanks.dxf"' }
		});
	});
