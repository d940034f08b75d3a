import Papa from 'papaparse';
import { MOMENT_WORDS } from '$core/document/words';
import { answer, idOf } from '$lib/server/api';
import { issuedRevision } from '$lib/server/piece';
import { asFile } from '$lib/server/sheet';
import { measurementsOf, revisionOfPiece } from '$store/bench';
import { getDb } from '$store/database';
import { getPiece } from '$store/jobs';

/** Every reading of a piece, those withdrawn too, a row each: values in mm and degrees. */
export const GET = ({ params }) =>
	answer(async () => {
		const piece = await getPiece(getDb(), idOf(params.piece, 'This piece'));
		const bound = await revisionOfPiece(getDb(), piece.id);
		const names = new Map(bound ? (await issuedRevision(bound)).document.features.map((f) => [f.id, f.name]) : []);
		const rows = (await measurementsOf(getDb(), piece.id, true)).map((m) => ({
			piece: piece.serial,
			feature: names.get(m.feature) ?? m.feature,
			moment: MOMENT_WORDS[m.moment],
			method: m.method,
			value: m.value,
			unit: m.unit,
			uncertainty90: m.uncertainty90,
			readings: m.readings.join(' '),
			arithmetic: m.arithmetic,
			instrument: m.instrument,
			calibratedUntil: m.instrumentDueOn ?? '',
			metalC: m.metalC ?? '',
			posture: m.posture,
			readBy: m.person,
			readAt: m.measuredAt.toISOString(),
			withdrawn: m.withdrawnWhy ?? ''
		}));
		return asFile(Papa.unparse(rows, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', 'text/csv; charset=utf-8', `readings-${piece.serial}.csv`);
	});
