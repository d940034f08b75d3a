import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { ProcedurePatch } from '$lib/server/dto';
import { getDb } from '$store/database';
import { procedureWithVersions, saveProcedure } from '$store/library';

export const GET = ({ params }) => answer(async () => json(await procedureWithVersions(getDb(), idOf(params.procedure, 'This procedure'))));

export const PATCH = (event) =>
	answer(async () => {
		const { version, ...change } = await readBody(event.request, ProcedurePatch);
		return json({ procedure: await saveProcedure(getDb(), idOf(event.params.procedure, 'This procedure'), version, change, personOf(event).id) });
	});
