import { answer } from '$lib/server/api';
import { sheetInThread } from '$lib/server/compute';
import { asPdf, sheetOf } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { piecesOf } from '$store/jobs';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored, unit } = await sheetOf(event, 'Labels');
		const serials = (await piecesOf(getDb(), stored.jobId)).map((p) => p.serial);
		return asPdf(await sheetInThread({ sheet: 'labels', head, plan, serials, unit }), 'labels');
	});
