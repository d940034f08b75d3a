import { json } from '@sveltejs/kit';
import { answer, readBody } from '$lib/server/api';
import { PersonBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addPerson, listPeople } from '$store/library';

export const GET = () => answer(async () => json({ people: await listPeople(getDb()) }));

export const POST = ({ request }) =>
	answer(async () => {
		const b = await readBody(request, PersonBody);
		return json({ person: await addPerson(getDb(), b.name.trim(), b.pin, b.roles) }, { status: 201 });
	});
