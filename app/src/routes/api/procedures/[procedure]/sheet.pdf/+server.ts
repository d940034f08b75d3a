import { answer, idOf, personOf } from '$lib/server/api';
import { sheetInThread } from '$lib/server/compute';
import { asPdf } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { procedureWithVersions } from '$store/library';

export const GET = (event) =>
	answer(async () => {
		const found = await procedureWithVersions(getDb(), idOf(event.params.procedure, 'This procedure'));
		return asPdf(await sheetInThread({ sheet: 'procedure', found, printedBy: personOf(event).name }), 'procedure');
	});
