import { etchedDxf } from '$core/formats/blankDxf';
import { answer, idOf, personOf } from '$lib/server/api';
import { oversizes } from '$lib/server/cutting';
import { sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { plan } = await sheetOf(idOf(event.params.job, 'This job'), 'Etched blanks', personOf(event));
		return new Response(etchedDxf(plan, oversizes(plan)), {
			headers: { 'content-type': 'image/vnd.dxf', 'content-disposition': 'attachment; filename="etched-blanks.dxf"' }
		});
	});
