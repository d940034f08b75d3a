import type { RequestEvent } from '@sveltejs/kit';
import { getDb } from '$store/database';
import { currentPlan, getJob, getPiece, StateError } from '$store/jobs';
import { revisionOfPiece } from '$store/bench';
import { answer, idOf, personOf } from './api';
import { benchPlanOf, sheetInThread } from './compute';
import type { SheetHead } from './pdf';
import { issuedRevision } from './piece';

/** A plan's number; one that a piece was planned on by has a number of its own behind it. */
export const revisionWords = (r: { revision: number; variant: number }) =>
	r.variant ? `${r.revision}.${r.variant}, of this piece alone` : String(r.revision);

/**
 * The plan a sheet is printed from, and what stands at its top: the job's, or with `?piece=` the one that piece is welded to.
 * @throws StateError where the piece has none yet
 */
export async function sheetOf(event: RequestEvent, title: string) {
	const person = personOf(event);
	const job = await getJob(getDb(), idOf(event.params.job, 'This job'));
	const asked = event.url.searchParams.get('piece');
	const piece = asked === null ? undefined : await getPiece(getDb(), idOf(asked, 'This piece'));
	if (piece && piece.jobId !== job.id) throw new StateError('piece', `Piece ${piece.serial} is of another job`);
	const bound = piece && (await revisionOfPiece(getDb(), piece.id));
	if (piece && !bound) throw new StateError('piece', `Piece ${piece.serial} has not been started: print the sheets of its job`);
	const r = bound ? await issuedRevision(bound) : await currentPlan(getDb(), job.id);
	const head: SheetHead = {
		title: piece ? `${title} of piece ${piece.serial}` : title,
		job: `${job.number} ${job.name}`,
		revision: revisionWords(r),
		state: r.state,
		printedBy: person.name
	};
	return { head, plan: r.document, stored: r, notes: job.notes, quantity: piece ? 1 : job.quantity, unit: person.units, serial: piece?.serial };
}

/** A route for one of the sheets that are made from the bench steps. */
export const benchSheet = (sheet: 'run-sheet' | 'fit-up-sheet' | 'hold-sheet' | 'marks-sheet', title: string) => (event: RequestEvent) =>
	answer(async () => {
		const { head, plan, stored, unit } = await sheetOf(event, title);
		return asPdf(await sheetInThread({ sheet, head, plan, bench: await benchPlanOf(stored), unit }), sheet);
	});

export const asPdf = (bytes: Uint8Array<ArrayBuffer>, name: string) =>
	new Response(bytes, { headers: { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name}.pdf"` } });

export const asJpeg = (bytes: Buffer) => new Response(new Uint8Array(bytes), { headers: { 'content-type': 'image/jpeg' } });

/** A file to keep. @param name without anything an address or a header could take amiss */
export const asFile = (body: string, type: string, name: string) =>
	new Response(body, { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` } });

export const fileName = (name: string) =>
	name
		.replace(/[^A-Za-z0-9 _-]/g, '')
		.trim()
		.replace(/ +/g, '-') || 'job';
