import { learnFrom } from '$lib/server/learning';
import { pieceInHand } from '$lib/server/piece';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const measured = pieces.filter((p) => p.readings > 0);
	const { piece } = await pieceInHand(measured.length ? measured : pieces, url.searchParams.get('piece'));
	return { piece: piece ?? null, found: piece ? await learnFrom(piece.id) : null };
};
