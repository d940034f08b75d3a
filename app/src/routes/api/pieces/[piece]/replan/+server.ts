import { json } from '@sveltejs/kit';
import { DEFAULT_GOALS } from '$core/search/cost';
import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf, endsOf } from '$lib/server/compute';
import { factorsOf } from '$lib/server/learning';
import { issuedRevision } from '$lib/server/piece';
import { eventsOf, measurementsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, StateError } from '$store/jobs';
import { dequeue, enqueue } from '$store/queue';
import { endOlderReplans, taskFor } from '$store/tasks';

/** What is asked of a piece at the bench: its plan, and where it stands. @throws StateError where it is not at the bench */
async function askedOf(id: string | undefined) {
	const db = getDb();
	const piece = await getPiece(db, idOf(id, 'This piece'));
	const bound = await revisionOfPiece(db, piece.id);
	if (!bound || piece.state !== 'in-hand') throw new StateError('piece', `Piece ${piece.serial} is not at the bench`);
	const revision = await issuedRevision(bound);
	const { steps } = await benchPlanOf(revision);
	const [events, readings] = [await eventsOf(db, piece.id), await measurementsOf(db, piece.id)];
	return {
		piece,
		plan: revision.document,
		factors: await factorsOf(revision.document),
		steps,
		lines: events.map(({ clientId, kind, step, about, data, ...e }) => ({ clientId, kind, step, about, data, at: tappedAt(e) })),
		readings: readings.map((r) => ({ feature: r.feature, moment: r.moment, value: r.value, at: r.measuredAt.getTime() }))
	};
}

/** Where this piece will end as planned, at once and without the heat that lies in it. */
export const GET = ({ params }) =>
	answer(async () => {
		const { piece: _, ...asked } = await askedOf(params.piece);
		return json({ replan: await endsOf(asked) });
	});

/**
 * Asks where this piece will end from where it stands, and what would end better. What was worked out for the same log is given at once;
 * what was asked of the piece before, and is not over, is ended: it is of a piece that is another by now.
 */
export const POST = (event) =>
	answer(async () => {
		const db = getDb();
		const { piece, plan, factors, ...stands } = await askedOf(event.params.piece);
		const input = { plan, factors, ask: { goals: DEFAULT_GOALS }, piece: { id: piece.id, ...stands } };
		const { task, fresh } = await taskFor(db, piece.jobId, 'replan', input, personOf(event).id);
		for (const older of await endOlderReplans(db, piece.id, task.id)) await dequeue(older);
		if (fresh) await enqueue(task.id);
		return json({ task }, { status: fresh ? 201 : 200 });
	});
