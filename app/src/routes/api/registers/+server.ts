import { json } from '@sveltejs/kit';
import { readItem } from '$core/registers/registers';
import { answer, personOf, readBody } from '$lib/server/api';
import { RegisterBody } from '$lib/server/dto';
import { getDb } from '$store/database';
import { addItem, listRegister } from '$store/registers';
import { inField } from '$lib/server/parse';

export const GET = () => answer(async () => json({ items: await listRegister(getDb()) }));

export const POST = (event) =>
	answer(async () => {
		const { kind, item } = await readBody(event.request, RegisterBody);
		const read = inField('item', () => readItem(kind, item));
		return json({ item: await addItem(getDb(), kind, read, personOf(event).id) }, { status: 201 });
	});
