import { json } from '@sveltejs/kit';
import { readAs } from '$core/document/validate';
import { dataFaults } from '$core/weldout/happenings';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { AfterQuery, EventBody, EventsBody } from '$lib/server/dto';
import { queryAs } from '$lib/server/parse';
import { addEvents, eventsOf, LOG_PAGE, revisionOfPiece, type BenchEvent, type NewEvent, type RefusedEvent } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision, latestRevision } from '$store/jobs';

/** What follows a line of the log, a page of it. */
const page = (after: number, events: BenchEvent[]) => ({ after, events, more: events.length === LOG_PAGE });

export const GET = ({ params, url }) =>
	answer(async () => {
		const { after } = queryAs(AfterQuery, url, ['after']);
		return json(page(after, await eventsOf(getDb(), idOf(params.piece, 'This piece'), after)));
	});

const AT_A_TIME = 100;

/** Each event is read and judged by itself: one that cannot be taken is told and blocks no other. */
export const POST = (event) =>
	answer(async () => {
		const { events, after } = await readBody(event.request, EventsBody);
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
		const piece = idOf(event.params.piece, 'This piece');
		const { fit, unfit } = await againstPlan(piece, sound);
		refused.push(...unfit);
		const kept = await addEvents(getDb(), piece, fit, personOf(event).id, after);
		return json({ ...page(after, kept.events), refused: [...refused, ...kept.refused] });
	});

/** What lines carry beside their words is held against the plan the piece is welded to. */
async function againstPlan(piece: string, events: readonly NewEvent[]): Promise<{ fit: NewEvent[]; unfit: RefusedEvent[] }> {
	const isPlain = (e: NewEvent) => !e.data && e.kind !== 'laid' && e.kind !== 'happened';
	if (events.every(isPlain)) return { fit: [...events], unfit: [] };
	const bound = await revisionOfPiece(getDb(), piece);
	const revision = bound ? await getRevision(getDb(), bound) : await latestRevision(getDb(), (await getPiece(getDb(), piece)).jobId, 'issued');
	const fit: NewEvent[] = [];
	const unfit: RefusedEvent[] = [];
	for (const e of events) {
		// a piece that is not begun is refused for that, below
		const faults = isPlain(e) || !revision ? [] : dataFaults(e.kind, e.data ?? undefined, e.step ?? undefined, revision.document);
		if (faults.length) unfit.push({ clientId: e.clientId, message: faults.map((f) => `${f.field}: ${f.allowed}`).join('; ') });
		else fit.push(e);
	}
	return { fit, unfit };
}
