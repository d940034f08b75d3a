import { json } from '@sveltejs/kit';
import { DEFAULT_GOALS } from '$core/search/cost';
import { answer, idOf, personOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { factorsOf } from '$lib/server/learning';
import { issuedRevision } from '$lib/server/piece';
import { eventsOf, measurementsOf, revisionOfPiece, tappedAt } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, StateError } from '$store/jobs';
import { enqueue } from '$store/queue';
import { taskFor } from '$store/tasks';

/** Asks where this piece will end from where it stands, and what would end better. What was worked out for the same log is given at once. */
export const POST = (event) =>
	answer(async () => {
		const db = getDb();
		const piece = await getPiece(db, idOf(event.params.piece, 'This piece'));
		const bound = await revisionOfPiece(db, piece.id);
		if (!bound || piece.state !== 'in-hand') throw new StateError('piece', `Piece ${piece.serial} is not at the bench`);
		const revision = await issuedRevision(bound);
		const { document } = revision;
		const { steps } = await benchPlanOf(revision);
		const [events, readings] = [await eventsOf(db, piece.id), await measurementsOf(db, piece.id)];
		const input = {
			plan: document,
			factors: await factorsOf(document),
			ask: { goals: DEFAULT_GOALS },
			piece: {
				id: piece.id,
				steps,
				lines: events.map(({ clientId, kind, step, about, data, ...e }) => ({ clientId, kind, step, about, data, at: tappedAt(e) })),
				readings: readings.map((r) => ({ feature: r.feature, moment: r.moment, value: r.value, at: r.measuredAt.getTime() }))
			}
		};
		const { task, fresh } = await taskFor(db, piece.jobId, 'replan', input, personOf(event).id);
		if (fresh) await enqueue(task.id);
		return json({ task }, { status: fresh ? 201 : 200 });
	});
