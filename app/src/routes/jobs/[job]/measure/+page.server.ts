import { readingContext } from '$core/features/context';
import { featureKind } from '$core/features';
import { METHOD_KINDS } from '$core/measure/methods';
import { readsIn } from '$core/measure/methods/method';
import type { InstrumentItem } from '$core/registers/registers';
import { benchPlanOf } from '$lib/server/compute';
import { pieceInHand } from '$lib/server/piece';
import { measurementsOf } from '$store/bench';
import { getDb } from '$store/database';
import { newestReading } from '$store/devices';
import { inUse } from '$store/registers';

export const load = async ({ url, parent }) => {
	const { pieces } = await parent();
	const { piece, plan, revision, stored } = await pieceInHand(pieces, url.searchParams.get('piece'));
	if (!piece || !plan || !stored)
		return {
			piece: piece ?? null,
			revision: null,
			posture: 'three-points' as const,
			features: [],
			measurements: [],
			instruments: [],
			art: undefined
		};
	return {
		piece,
		revision,
		posture: plan.posture,
		devicesAfter: await newestReading(getDb(), piece.id),
		instruments: (await inUse(getDb())).flatMap((r) => (r.kind === 'instrument' ? [{ id: r.id, ...(r.item as InstrumentItem) }] : [])),
		// the page does not wait for its pictures
		art: benchPlanOf(stored).then(({ pictures, features }) => ({ pictures, features })),
		features: plan.features.map((f) => {
			const context = readingContext(f, plan);
			return {
				id: f.id,
				name: f.name,
				kind: f.kind,
				tolerance: { ...f.tolerance },
				context,
				unit: featureKind(f).unit,
				/** ways to read it, the usual one first */
				ways: featureKind(f).methods.map((method) => ({
					method,
					name: METHOD_KINDS[method].name,
					labels: METHOD_KINDS[method].labels(context),
					readsIn: readsIn(METHOD_KINDS[method]),
					columns: METHOD_KINDS[method].columns(context)
				}))
			};
		}),
		measurements: (await measurementsOf(getDb(), piece.id, true)).map((m) => ({ ...m, measuredBy: undefined, withdrawnBy: undefined }))
	};
};
