import { json } from '@sveltejs/kit';
import { answer, auditOf, readBody } from '$lib/server/api';
import { PersonBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addPerson, listPeople } from '$store/library';

export const GET = () => answer(async () => json({ people: await listPeople(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const b = await readBody(event.request, PersonBody);
		return json({ person: await addPerson(getDb(), b.name.trim(), b.pin, b.roles, auditOf(event)) }, { status: 201 });
	});
