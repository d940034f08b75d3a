import { GRADES } from '$core/materials/grades';
import { firstHour } from '$lib/help/firstHour';
import { getDb } from '$store/database';
import { shopSoFar } from '$store/firstHour';
import { listJobs } from '$store/jobs';

export const load = async ({ url }) => ({
	jobs: await listJobs(getDb(), url.searchParams.get('search')?.slice(0, 100) ?? '', url.searchParams.has('archived')),
	// a shop that has come all the way is not led any more
	firstHour: firstHour(await shopSoFar(getDb())).filter((_, __, all) => all.some((s) => !s.isDone)),
	grades: GRADES.map((g) => ({ id: g.id, name: g.name }))
});
