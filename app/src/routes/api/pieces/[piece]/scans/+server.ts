import { json } from '@sveltejs/kit';
import { answer, idOf, personOf, readBytes } from '$lib/server/api';
import { scanOfPlan } from '$lib/server/compute';
import { ScanQuery } from '$lib/server/dto';
import { queryAs } from '$lib/server/parse';
import { issuedRevision } from '$lib/server/piece';
import { revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, StateError } from '$store/jobs';
import { addScan, scansOf } from '$store/scans';

/** Twelve bytes a node: a mesh of more than this many is refused long before. */
const SHAPE_LIMIT = 3_000_000;

export const GET = ({ params }) => answer(async () => json({ scans: await scansOf(getDb(), idOf(params.piece, 'This piece')) }));

/** The body is the shape; what belongs to it stands in the address. */
export const POST = (event) =>
	answer(async () => {
		const { seen, ...asked } = queryAs(ScanQuery, event.url, ['metalC', 'points', 'scatterMm']);
		const piece = await getPiece(getDb(), idOf(event.params.piece, 'This piece'));
		const planRevisionId = await revisionOfPiece(getDb(), piece.id);
		if (!planRevisionId) throw new StateError('piece', `Piece ${piece.serial} has not been started: scans belong to a plan at the bench`);
		const sent = await readBytes(event.request, SHAPE_LIMIT);
		const { document } = await issuedRevision(planRevisionId);
		const shape = Buffer.from(await scanOfPlan(document, sent));
		await addScan(getDb(), piece.id, { ...asked, isFromDatum: seen === 'datum', planRevisionId, shape }, personOf(event).id);
		return json({ clientId: asked.clientId }, { status: 201 });
	});
