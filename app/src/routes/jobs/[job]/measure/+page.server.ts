import { readingContext } from '$core/features/context';
import { featureKind } from '$core/features';
import { METHOD_KINDS } from '$core/measure/methods';
import { pieceInHand } from '$lib/server/piece';
import { measurementsOf } from '$store/bench';
import { getDb } from '$store/database';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const { piece, plan, revision } = await pieceInHand(pieces, url.searchParams.get('piece'));
	if (!piece || !plan) return { piece: piece ?? null, revision: null, posture: 'three-points' as const, features: [], measurements: [] };
	return {
		piece,
		revision,
		posture: plan.posture,
		features: plan.features.map((f) => {
			const method = featureKind(f).methods[0];
			const context = readingContext(f, plan);
			return {
				id: f.id,
				name: f.name,
				kind: f.kind,
				tolerance: { ...f.tolerance },
				method,
				context,
				labels: METHOD_KINDS[method].labels(context),
				unit: METHOD_KINDS[method].unit,
				columns: METHOD_KINDS[method].columns(context)
			};
		}),
		measurements: (await measurementsOf(getDb(), piece.id, true)).map((m) => ({ ...m, measuredBy: undefined, withdrawnBy: undefined }))
	};
};
