import { featureKind } from '$core/features';
import { readingContext } from '$core/features/context';
import { pieceInHand } from '$lib/server/piece';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const { piece, plan } = await pieceInHand(pieces, url.searchParams.get('piece'));
	if (!piece || !plan) return { piece: piece ?? null, plan: null, features: [] };
	return {
		piece,
		// plain data: what reading a document made of it has methods and classes of its own
		plan: JSON.parse(JSON.stringify(plan)) as typeof plan,
		features: plan.features.map((f) => ({
			id: f.id,
			name: f.name,
			unit: featureKind(f).unit,
			method: featureKind(f).methods.find((m) => m.startsWith('scan'))!,
			tolerance: { ...f.tolerance },
			context: readingContext(f, plan)
		}))
	};
};
