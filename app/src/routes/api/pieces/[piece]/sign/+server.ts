import { json } from '@sveltejs/kit';
import { answer, auditOf, idOf, readBody } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { SignBody } from '$lib/server/dto';
import { revisionOfPiece, sign } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, getRevision, StateError } from '$store/jobs';
import { inspectorMayHaveWelded } from '$store/settings';

export const POST = (event) =>
	answer(async () => {
		const body = await readBody(event.request, SignBody);
		const db = getDb();
		const piece = await getPiece(db, idOf(event.params.piece, 'This piece'));
		const revisionId = await revisionOfPiece(db, piece.id);
		if (!revisionId) throw new StateError('piece', `Piece ${piece.serial} has not been started: there is nothing to sign`);
		const revision = await getRevision(db, revisionId);
		const { steps } = await benchPlanOf(revision);
		const terms = { plan: revision.document, steps, mayHaveWelded: await inspectorMayHaveWelded(db) };
		await sign(db, piece.id, body, terms, auditOf(event));
		return json({}, { status: 201 });
	});
