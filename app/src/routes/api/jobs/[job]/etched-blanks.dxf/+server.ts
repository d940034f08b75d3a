import { etchedDxf } from '$core/formats/blankDxf';
import { answer } from '$lib/server/api';
import { oversizes } from '$lib/server/cutting';
import { sheetOf } from '$lib/server/sheet';

export const GET = (event) =>
	answer(async () => {
		const { plan } = await sheetOf(event, 'Etched blanks');
		return new Response(etchedDxf(plan, oversizes(plan)), {
			headers: { 'content-type': 'image/vnd.dxf', 'content-disposition': 'attachment; filename="etched-blanks.dxf"' }
		});
	});
