import { json } from '@sveltejs/kit';
import { answer, idOf, readBody } from '$lib/server/api';
import { ProcedurePatch } from '$lib/server/dto';
import { getDb } from '$store/database';
import { saveProcedure } from '$store/library';

export const PATCH = ({ request, params }) =>
	answer(async () => {
		const { version, ...change } = await readBody(request, ProcedurePatch);
		return json({ procedure: await saveProcedure(getDb(), idOf(params.procedure, 'This procedure'), version, change) });
	});
