import { getDb } from '$store/database';
import { listPeople } from '$store/library';
import { backupState } from '$store/nightly';
import { readSettings } from '$store/settings';

export const load = async () => ({ people: await listPeople(getDb()), settings: await readSettings(getDb()), backups: await backupState(getDb()) });
