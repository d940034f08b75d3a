import { error } from '@sveltejs/kit';
import { closedFormOf } from '$core/coupons/closedForm';
import { aboutCoupon, COUPONS } from '$core/coupons/coupons';
import { readingContext } from '$core/features/context';
import { METHOD_KINDS } from '$core/measure/methods';
import { idOf } from '$lib/server/api';
import { benchPlanOf, saidOf } from '$lib/server/compute';
import { coolAtOf } from '$lib/server/cooled';
import { narrowedByPiece } from '$lib/server/coupons';
import { learnFrom } from '$lib/server/learning';
import { eventsOf, measurementsOf } from '$store/bench';
import { getDb } from '$store/database';
import { currentPlan, getJob, MissingError, piecesOf } from '$store/jobs';
import { listTrials } from '$store/trials';

export const load = async ({ params, url }) => {
	const db = getDb();
	const id = idOf(params.job, 'This coupon');
	try {
		const job = await getJob(db, id);
		if (!job.coupon) error(404, 'This job is no coupon: open it under Jobs.');
		const [stored, pieces] = await Promise.all([currentPlan(db, id), piecesOf(db, id)]);
		const plan = stored.document;
		const piece = pieces.find((p) => p.id === url.searchParams.get('piece')) ?? pieces[0];
		const trial = (await listTrials(db)).find((t) => t.ways.some((w) => w.job === id));
		const [events, measured] = await Promise.all([eventsOf(db, piece.id), measurementsOf(db, piece.id)]);
		const isWelded = piece.state === 'welded' || piece.state === 'handed-over';
		const found = measured.length ? learnFrom(piece.id) : undefined;
		return {
			job: { id: job.id, name: job.name, number: job.number, notes: job.notes },
			kind: job.coupon,
			record: { name: COUPONS[job.coupon].name, tells: COUPONS[job.coupon].tells, isOnBar: COUPONS[job.coupon].isOnBar ?? false },
			trial: trial && { id: trial.id, name: trial.name },
			piece: { id: piece.id, serial: piece.serial, state: piece.state },
			isWelded,
			sheets: plan.parts.map((p) => {
				const [xs, ys] = [0, 1].map((k) => p.outline.map((q) => q[k]));
				return { name: p.name, thicknessMm: p.thicknessMm, sizeMm: [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)] };
			}),
			settings: { ampsA: plan.settings[0].ampsA, speedMmPerS: plan.settings[0].speedMmPerS },
			tacks: plan.tacks.length,
			posture: plan.posture,
			// a forecast of it: the page does not wait
			about: saidOf(plan).then((said) => {
				const about = aboutCoupon(plan, said);
				const readings = about.readings.flatMap((r) => {
					const feature = plan.features.find((x) => x.id === r.feature)!;
					const context = readingContext(feature, plan);
					// squareness is read to see that nothing else is wrong; where the welds do less than the instrument doubts it tells nothing
					return r.effect < 0.5 * r.doubt ? [] : [{ ...r, context, handbook: closedFormOf(plan, feature), instrument: METHOD_KINDS[r.method].name }];
				});
				return { ...about, readings };
			}),
			art: benchPlanOf(stored)
				.then(({ pictures, features }) => ({ pictures, features }))
				.catch(() => undefined),
			coolAt: isWelded ? coolAtOf(piece.id, { plan, steps: (await benchPlanOf(stored)).steps }, events) : undefined,
			measured: measured.map((m) => ({ id: m.id, feature: m.feature, moment: m.moment, value: m.value, uncertainty90: m.uncertainty90 })),
			found,
			narrowed: found?.then((l) => (l.evidence ? narrowedByPiece(piece.id, l.evidence) : [])).catch(() => [])
		};
	} catch (e) {
		if (e instanceof MissingError) error(404, e.message);
		throw e;
	}
};
