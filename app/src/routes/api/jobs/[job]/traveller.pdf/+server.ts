import { answer } from '$lib/server/api';
import { benchPlanOf, sheetInThread } from '$lib/server/compute';
import { addressOf } from '$lib/server/session';
import { asPdf, sheetOf } from '$lib/server/sheet';
import { getDb } from '$store/database';
import { piecesOf } from '$store/jobs';

export const GET = (event) =>
	answer(async () => {
		const { head, plan, stored, notes, quantity, unit, serial } = await sheetOf(event, 'Traveller');
		const [bench, pieces] = [await benchPlanOf(stored), await piecesOf(getDb(), stored.jobId)];
		const serials = serial ? [serial] : pieces.map((p) => p.serial);
		const address = `${addressOf(event)}/jobs/${stored.jobId}/weld-out`;
		return asPdf(await sheetInThread({ sheet: 'traveller', head, plan, bench, notes, quantity, serials, address, unit }), 'traveller');
	});
