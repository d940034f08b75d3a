import Papa from 'papaparse';
import { issuedAndRun } from '$core/weldout/issuedAndRun';
import { whereItStands } from '$core/weldout/logbook';
import { answer, idOf } from '$lib/server/api';
import { benchPlanOf } from '$lib/server/compute';
import { issuedRevision, logLine } from '$lib/server/piece';
import { asFile } from '$lib/server/sheet';
import { eventsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece, StateError } from '$store/jobs';

/** The plan as issued beside as it was run, a row each run: mm and amps. */
export const GET = ({ params }) =>
	answer(async () => {
		const piece = await getPiece(getDb(), idOf(params.piece, 'This piece'));
		const bound = await revisionOfPiece(getDb(), piece.id);
		if (!bound) throw new StateError('piece', `Piece ${piece.serial} has not been started: nothing of it was run`);
		const revision = await issuedRevision(bound);
		const { steps } = await benchPlanOf(revision);
		const lines = (await eventsOf(getDb(), piece.id)).map(logLine);
		const { runs } = issuedAndRun(revision.document, whereItStands(steps, lines), (mm, digits = 1) => `${mm.toFixed(digits)} mm`);
		const rows = runs.map((r) => ({
			piece: piece.serial,
			run: r.number,
			seam: r.letter,
			asIssued: r.issued,
			asRun: r.run,
			otherwise: r.otherwise.join('; ')
		}));
		return asFile(Papa.unparse(rows, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', 'text/csv; charset=utf-8', `as-run-${piece.serial}.csv`);
	});
