import { error } from '@sveltejs/kit';
import { COUPONS } from '$core/coupons/coupons';
import { DIFFERENCE } from '$core/coupons/differences';
import { unitOf } from '$core/features';
import { idOf } from '$lib/server/api';
import { jobsInThisSheet } from '$lib/server/trialAdopted';
import { piecesOfTrial, plansOfTrial, resultsOf } from '$lib/server/trials';
import { getDb } from '$store/database';
import { MissingError } from '$store/jobs';
import { getTrial } from '$store/trials';

export const load = async ({ params }) => {
	const db = getDb();
	try {
		const trial = await getTrial(db, idOf(params.trial, 'This trial'));
		const [pieces, [{ document: plan }]] = await Promise.all([piecesOfTrial(trial), plansOfTrial(trial)]);
		const about = plan.features.find((f) => f.id === trial.feature)!;
		return {
			trial: {
				id: trial.id,
				name: trial.name,
				coupon: COUPONS[trial.coupon].name,
				differs: DIFFERENCE[trial.difference].name,
				ways: trial.ways,
				matters: trial.matters,
				feature: about.name,
				unit: unitOf(about),
				person: trial.person,
				createdAt: trial.createdAt,
				conclusion: trial.conclusion,
				concludedAt: trial.concludedAt,
				concluder: trial.concluder
			},
			pieces,
			jobs: jobsInThisSheet(trial, plan),
			// its ways are forecast for it: the page does not wait
			results: resultsOf(trial, pieces)
		};
	} catch (e) {
		if (e instanceof MissingError) error(404, e.message);
		throw e;
	}
};
