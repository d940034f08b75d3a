import Papa from 'papaparse';
import { answer, idOf } from '$lib/server/api';
import { asFile } from '$lib/server/sheet';
import { piecesOfTrial } from '$lib/server/trials';
import { getDb } from '$store/database';
import { getTrial } from '$store/trials';

/** Every piece in the order it is welded, with all that was read of it. */
export const GET = (event) =>
	answer(async () => {
		const trial = await getTrial(getDb(), idOf(event.params.trial, 'This trial'));
		const pieces = await piecesOfTrial(trial);
		const features = [...new Set(pieces.flatMap((p) => Object.keys(p.values)))];
		const rows = pieces.map((p, i) => ({
			order: i + 1,
			round: p.round + 1,
			way: trial.ways[p.way].name,
			piece: p.serial,
			state: p.state,
			...Object.fromEntries(features.map((f) => [f, p.values[f] ?? ''])),
			minutes_of_putting_right: p.minutes,
			left_out: p.out ?? ''
		}));
		return asFile(Papa.unparse(rows, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', 'text/csv; charset=utf-8', 'trial.csv');
	});
