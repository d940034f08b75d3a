import { GRADES } from '$core/materials/grades';
import { getDb } from '$store/database';
import { listJobs } from '$store/jobs';
import { listMaterials } from '$store/library';
import { listTrials } from '$store/trials';

export const load = async () => {
	const db = getDb();
	const [jobs, own, trials] = await Promise.all([listJobs(db, '', false), listMaterials(db), listTrials(db)]);
	return {
		grades: [...GRADES, ...own.map((m) => m.material)].map((g) => ({ id: g.id, name: g.name })),
		jobs: jobs.filter((j) => !j.coupon).map((j) => ({ id: j.id, name: j.name })),
		trials: trials.map((t) => ({ id: t.id, name: t.name, ways: t.ways.map((w) => w.name), pieces: t.welding.length, isConcluded: !!t.concludedAt }))
	};
};
