import Papa from 'papaparse';
import { learnedCsv } from '$core/learn/honest';
import { answer, personOf } from '$lib/server/api';
import { shopInThread } from '$lib/server/compute';
import { asFile } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { evidenceInForce } from '$store/lessons';

/** Every reading behind what the shop has learned, with what was foretold of it. */
export const GET = (event) =>
	answer(async () => {
		personOf(event);
		const { evidence, mark } = await evidenceInForce(getDb());
		const rows = learnedCsv(await shopInThread(mark, evidence));
		return asFile(Papa.unparse(rows, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', 'text/csv; charset=utf-8', 'learned.csv');
	});
