import { json } from '@sveltejs/kit';
import { readItem } from '$core/registers/registers';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { RegisterPatch } from '$lib/server/dto';
import { inField } from '$lib/server/parse';
import { getDb } from '$store/database';
import { registered, saveItem } from '$store/registers';

export const PATCH = (event) =>
	answer(async () => {
		const { version, item, archived } = await readBody(event.request, RegisterPatch);
		const { id, kind } = await registered(getDb(), idOf(event.params.item, 'This entry of the register'));
		const read = item && inField('item', () => readItem(kind, item));
		return json({ item: await saveItem(getDb(), id, version, { item: read, archived }, personOf(event).id) });
	});
