import { error } from '@sveltejs/kit';
import { FaultError } from '$core/document/faults';
import type { LogbookQuery } from '$lib/server/dto';
import { logbookAsk } from '$lib/server/logbook';
import { getDb } from '$store/database';
import { logbookChoices, logbookRows, logbookSums } from '$store/logbook';

const ROWS = 50;

export const load = async ({ url }) => {
	let ask: LogbookQuery;
	try {
		ask = logbookAsk(url);
	} catch (e) {
		if (!(e instanceof FaultError)) throw e;
		error(400, e.faults.map((f) => `${f.field}: ${f.allowed}`).join('; '));
	}
	const { page, ...asked } = ask;
	const db = getDb();
	const [rows, sums, choices] = await Promise.all([logbookRows(db, asked, ROWS, (page - 1) * ROWS), logbookSums(db, asked), logbookChoices(db)]);
	return { rows, sums, choices, asked: { ...asked }, page, pages: Math.max(1, Math.ceil(sums.pieces / ROWS)) };
};
