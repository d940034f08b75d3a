import { json } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/api';
import { aheadOf } from '$lib/server/compute';
import { revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getRevision, latestRevision, MissingError } from '$store/jobs';

/** What the welder is told of each run's edges; `piece`: by the plan that this piece is made to. */
export const GET = ({ params, url }) =>
	answer(async () => {
		const db = getDb();
		const job = idOf(params.job, 'This job');
		const piece = url.searchParams.get('piece');
		const startedOn = piece ? await revisionOfPiece(db, idOf(piece, 'This piece')) : undefined;
		const revision = startedOn ? await getRevision(db, startedOn) : await latestRevision(db, job, 'issued');
		if (!revision || revision.jobId !== job) throw new MissingError('An issued plan');
		return json(await aheadOf(revision));
	});
