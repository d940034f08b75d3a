import { benchPlanOf } from '$lib/server/compute';
import { learnFrom } from '$lib/server/learning';
import { pieceInHand } from '$lib/server/piece';
import { eventsOf, handOverOf, measurementsOf } from '$store/bench';
import { getDb } from '$store/database';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const measured = pieces.filter((p) => p.readings > 0);
	const { piece, plan, stored } = await pieceInHand(measured.length ? measured : pieces, url.searchParams.get('piece'));
	if (!piece || !plan || !stored) return { piece: piece ?? null, found: piece ? learnFrom(piece.id) : null, judged: [] };
	const { steps } = await benchPlanOf(stored);
	const { judged } = handOverOf({ plan, steps }, await eventsOf(getDb(), piece.id), await measurementsOf(getDb(), piece.id, true));
	return { piece, found: learnFrom(piece.id), judged };
};
