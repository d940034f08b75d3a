import { readingContext } from '$core/features/context';
import { featureKind } from '$core/features';
import { growthOf } from '$core/features/warm';
import { METHOD_KINDS, waysOf } from '$core/measure/methods';
import type { InstrumentItem } from '$core/registers/registers';
import { arcsOf, coolAtOf } from '$lib/server/cooled';
import { benchPlanOf, pathsOf } from '$lib/server/compute';
import { factorsOf } from '$lib/server/learning';
import { pieceInHand } from '$lib/server/piece';
import { eventsOf, handOverOf, measurementsOf } from '$store/bench';
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
			ambientC: 20,
			features: [],
			measurements: [],
			instruments: [],
			art: undefined,
			paths: undefined,
			coolAt: undefined,
			judged: []
		};
	const events = await eventsOf(getDb(), piece.id);
	const readings = await measurementsOf(getDb(), piece.id, true);
	const laid = arcsOf(events);
	const { steps } = await benchPlanOf(stored);
	return {
		piece,
		revision,
		posture: plan.posture,
		ambientC: plan.ambientC,
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
				/** mm for each K, of a length */
				growth: growthOf(f, plan),
				/** ways to read it, the usual one first */
				ways: waysOf(featureKind(f).methods, context).filter((m) => !METHOD_KINDS[m].isFromScan)
			};
		}),
		judged: handOverOf({ plan, steps }, events, readings).judged,
		// by the heat that was really put in; the page does not wait for it
		coolAt: coolAtOf(piece.id, { plan, steps }, events),
		// beside the forecast, which takes a moment
		paths: factorsOf(plan).then((factors) => pathsOf(stored, factors)),
		measurements: readings.map((m) => ({
			...m,
			measuredBy: undefined,
			withdrawnBy: undefined,
			/** what lay last when it was read */
			run: laid.filter((l) => l.at <= m.measuredAt.getTime()).pop()?.run
		}))
	};
};
