import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { EventsBody } from '$lib/server/dto';
import { addEvents, eventsOf } from '$store/bench';
import { getDb } from '$store/database';

export const GET = ({ params }) => answer(async () => json({ events: await eventsOf(getDb(), idOf(params.piece, 'This piece')) }));

export const POST = (event) =>
	answer(async () => {
		const { events } = await readBody(event.request, EventsBody);
		const stamped = events.map((e) => ({ ...e, happenedAt: new Date(e.happenedAt) }));
		return json({ events: await addEvents(getDb(), idOf(event.params.piece, 'This piece'), stamped, personOf(event).id) });
	});
