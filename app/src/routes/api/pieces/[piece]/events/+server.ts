import { json } from '@sveltejs/kit';
import { readAs } from '$core/document/validate';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { EventBody, EventsBody } from '$lib/server/dto';
import { addEvents, eventsOf, type NewEvent, type RefusedEvent } from '$store/bench';
import { getDb } from '$store/database';

export const GET = ({ params }) => answer(async () => json({ events: await eventsOf(getDb(), idOf(params.piece, 'This piece')) }));

const AT_A_TIME = 100;

/** Each event is read and judged by itself: one that cannot be taken is told and blocks no other. */
export const POST = (event) =>
	answer(async () => {
		const { events } = await readBody(event.request, EventsBody);
		const sound: NewEvent[] = [];
		const refused: RefusedEvent[] = [];
		for (const [i, raw] of events.entries()) {
			// a tablet that was away for a week sends thousands: others are answered in between
			if (i % AT_A_TIME === AT_A_TIME - 1) await new Promise((go) => setImmediate(go));
			const { value, faults } = readAs(EventBody, raw);
			if (value) sound.push({ ...value, happenedAt: new Date(value.happenedAt) });
			else
				refused.push({
					clientId: String((raw as { clientId?: unknown } | null)?.clientId ?? '').slice(0, 60),
					message: faults.map((f) => `${f.field}: ${f.allowed}`).join('; ')
				});
		}
		const kept = await addEvents(getDb(), idOf(event.params.piece, 'This piece'), sound, personOf(event).id);
		return json({ events: kept.events, refused: [...refused, ...kept.refused] });
	});
