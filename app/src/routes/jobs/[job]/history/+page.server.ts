import { importedRecordOf } from '$store/record';
import { getDb } from '$store/database';
import { idOf } from '$lib/server/api';

export const load = async ({ params }) => ({ history: (await importedRecordOf(getDb(), idOf(params.job, 'This job'))) ?? null });
