import { GRADES } from '$core/materials/grades';
import { nextCoupons } from '$lib/server/coupons';
import { getDb } from '$store/database';
import { listJobs } from '$store/jobs';
import { listMaterials } from '$store/library';

export const load = async ({ url }) => {
	const db = getDb();
	const [jobs, own] = await Promise.all([listJobs(db, '', false), listMaterials(db)]);
	return {
		// up to a minute of work: begun when it is asked for, and the page does not wait for it
		next: url.searchParams.has('next') ? nextCoupons() : undefined,
		grades: [...GRADES, ...own.map((m) => m.material)].map((g) => ({ id: g.id, name: g.name })),
		coupons: jobs.filter((j) => j.coupon).map((j) => ({ id: j.id, name: j.name, number: j.number, begun: j.begun, done: j.done })),
		jobs: jobs.filter((j) => !j.coupon).map((j) => ({ id: j.id, name: j.name }))
	};
};
