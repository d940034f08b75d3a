import { json } from '@sveltejs/kit';
import { answer, personOf, readBody } from '$lib/server/api';
import { ProcedureBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addProcedure, listProcedures } from '$store/library';

export const GET = () => answer(async () => json({ procedures: await listProcedures(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const b = await readBody(event.request, ProcedureBody);
		return json({ procedure: await addProcedure(getDb(), b.name, b.settings, b.note, personOf(event).id) }, { status: 201 });
	});
