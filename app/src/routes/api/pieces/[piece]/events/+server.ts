import { json } from '@sveltejs/kit';
import type { PlanDocument } from '$core/document/schema';
import { readAs } from '$core/document/validate';
import { dataFaults } from '$core/weldout/happenings';
import { holdFault } from '$core/weldout/holdPoints';
import type { LogLine } from '$core/weldout/logbook';
import { benchPlanOf } from '$lib/server/compute';
import { answer, idOf, personOf, readBody } from '$lib/server/api';
import { AfterQuery, EventBody, EventsBody } from '$lib/server/dto';
import { queryAs } from '$lib/server/parse';
import { addEvents, logPage, revisionOfPiece, type LineJudge, type NewEvent, type RefusedEvent } from '$store/bench';
import { issuedRevision, type Revision } from '$lib/server/piece';
import { getDb } from '$store/database';
import { getPiece, latestRevision } from '$store/jobs';

export const GET = ({ params, url }) =>
	answer(async () => {
		const { after } = queryAs(AfterQuery, url, ['after']);
		return json(await logPage(getDb(), idOf(params.piece, 'This piece'), after));
	});

const AT_A_TIME = 100;
/** Of this many entries all that is wrong is told, of the others the first fault: thousands would make an answer of megabytes. */
const TOLD_WHOLE = 200;

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
					message: (refused.length < TOLD_WHOLE ? faults : faults.slice(0, 1)).map((f) => `${f.field}: ${f.allowed}`).join('; ')
				});
		}
		const piece = idOf(event.params.piece, 'This piece');
		const plan = await planOfPiece(piece, sound);
		const { fit, unfit } = againstPlan(plan?.document, sound);
		refused.push(...unfit);
		const kept = await addEvents(getDb(), piece, fit, personOf(event).id, after, await holdsOf(plan));
		return json({ ...kept, refused: [...refused, ...kept.refused] });
	});

/** Lines that say nothing the plan could have something against. */
const isPlain = (e: NewEvent) => !e.data && e.kind !== 'laid' && e.kind !== 'happened' && e.kind !== 'hold-signed';

/** The plan a piece is welded to, or will be. */
async function planOfPiece(piece: string, events: readonly NewEvent[]): Promise<Revision | undefined> {
	if (!events.length) return undefined;
	const bound = await revisionOfPiece(getDb(), piece);
	if (bound) return issuedRevision(bound);
	return latestRevision(getDb(), (await getPiece(getDb(), piece)).jobId, 'issued');
}

/** What lines carry beside their words is held against the plan. */
function againstPlan(plan: PlanDocument | undefined, events: readonly NewEvent[]): { fit: NewEvent[]; unfit: RefusedEvent[] } {
	const fit: NewEvent[] = [];
	const unfit: RefusedEvent[] = [];
	for (const e of events) {
		// a piece that is not begun is refused for that, below
		const faults = isPlain(e) || !plan ? [] : dataFaults(e.kind, e.data ?? undefined, e.step ?? undefined, plan);
		if (faults.length) unfit.push({ clientId: e.clientId, message: faults.map((f) => `${f.field}: ${f.allowed}`).join('; ') });
		else fit.push(e);
	}
	return { fit, unfit };
}

/** Where the plan has holds, each line is held against them; where it has none, nothing is signed or released. */
async function holdsOf(plan: Revision | undefined): Promise<LineJudge> {
	const steps = plan?.document.holdPoints?.length ? (await benchPlanOf(plan)).steps : [];
	return (line, stands, roles, about) => holdFault(steps, logOf(stands), line, roles, about);
}

/** Gone through only where the plan has something to say of a line, and then as often as it likes. */
const logOf = (stands: Iterable<NewEvent>): Iterable<LogLine> => ({
	*[Symbol.iterator]() {
		for (const e of stands) yield { ...e, at: e.happenedAt.getTime() };
	}
});
