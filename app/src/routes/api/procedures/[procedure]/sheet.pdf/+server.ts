import { answer, idOf, personOf } from '$lib/server/api';
import { procedureSheet } from '$lib/server/procedureSheet';
import { asPdf } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { procedureWithVersions } from '$store/library';

export const GET = (event) =>
	answer(async () => {
		const found = await procedureWithVersions(getDb(), idOf(event.params.procedure, 'This procedure'));
		return asPdf(await procedureSheet(found, personOf(event).name), 'procedure');
	});
