import Papa from 'papaparse';
import { isFirstTimeRight } from '$core/corrections/summary';
import { answer, personOf } from '$lib/server/api';
import { logbookAsk } from '$lib/server/logbook';
import { asFile } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { logbookRows } from '$store/logbook';

/** Rows of one file. */
const MOST_ROWS = 20_000;

/** The logbook as it is filtered, a row a piece. */
export const GET = (event) =>
	answer(async () => {
		personOf(event);
		const { page: _, ...ask } = logbookAsk(event.url);
		const rows = await logbookRows(getDb(), ask, MOST_ROWS);
		const data = rows.map(({ id: _id, jobId: _job, summary: s, signedAt, ...r }) => ({
			...r,
			signedAt: signedAt?.toISOString() ?? '',
			firstTimeRight: s && r.accepted !== null ? (isFirstTimeRight(s, r.accepted) && !r.concession ? 'yes' : 'no') : '',
			outside: s?.outside.join('; ') ?? '',
			inDoubt: s?.unsure.join('; ') ?? '',
			problems: s?.problems.map((p) => p.note + (p.decided ? ` (${p.decided})` : '')).join('; ') ?? '',
			corrections:
				s?.corrections
					.map((c) => `${c.way}${c.feature ? ` for ${c.feature}` : ''}${c.gave === undefined ? '' : `: ${c.gave.toFixed(2)} nearer`}`)
					.join('; ') ?? '',
			waitMin: s ? (s.waitS / 60).toFixed(1) : '',
			reworkMin: s?.reworkMin ?? '',
			welders: s?.welders.map((w) => w.name).join('; ') ?? ''
		}));
		return asFile(Papa.unparse(data, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', 'text/csv; charset=utf-8', 'logbook.csv');
	});
