import { json } from '@sveltejs/kit';
import { answer, auditOf, idOf, personOf, readBody } from '$lib/server/api';
import { PersonPatch } from '$lib/server/dto';
import { getDb } from '$store/database';
import { StateError } from '$store/jobs';
import { savePerson } from '$store/library';

export const PATCH = (event) =>
	answer(async () => {
		const id = idOf(event.params.person, 'This person');
		const { version, ...change } = await readBody(event.request, PersonPatch);
		if (id === personOf(event).id && (change.archived || (change.roles && !change.roles.includes('admin'))))
			throw new StateError('roles', 'You cannot take your own admin role away');
		await savePerson(getDb(), id, version, change, auditOf(event));
		return json({});
	});
