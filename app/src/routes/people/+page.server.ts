import { getDb } from '$store/database';
import { listPeople } from '$store/library';

export const load = async () => ({ people: await listPeople(getDb()) });
