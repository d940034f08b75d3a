import { GRADES } from '$core/materials/grades';
import { getDb } from '$store/database';
import { listJobs } from '$store/jobs';

export const load = async ({ url }) => ({
	jobs: await listJobs(getDb(), url.searchParams.get('search')?.slice(0, 100) ?? '', url.searchParams.has('archived')),
	grades: GRADES.map((g) => ({ id: g.id, name: g.name }))
});
