import { GRADES } from '$core/materials/grades';
import { firstHour, type FirstStep } from '$lib/help/firstHour';
import { getDb } from '$store/database';
import { shopSoFar } from '$store/firstHour';
import { listJobs } from '$store/jobs';

const stepsLeft = (steps: FirstStep[]) => (steps.every((s) => s.isDone) ? [] : steps);

export const load = async ({ url }) => ({
	jobs: await listJobs(getDb(), url.searchParams.get('search')?.slice(0, 100) ?? '', url.searchParams.has('archived')),
	// a shop that has come all the way is not led any more
	firstHour: stepsLeft(firstHour(await shopSoFar(getDb()))),
	grades: GRADES.map((g) => ({ id: g.id, name: g.name }))
});
