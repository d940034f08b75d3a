import { importedRecordOf } from '$store/record';
import { getDb } from '$store/database';
import { idOf } from '$lib/server/api';

export const load = async ({ params }) => {
	const history = await importedRecordOf(getDb(), idOf(params.job, 'This job'));
	if (!history) return { history: null };
	// the pictures themselves are asked for one by one
	const pieces = history.record.pieces.map((p) => ({ ...p, photographs: (p.photographs ?? []).map(({ jpeg: _, ...said }) => said) }));
	return { history: { ...history, record: { ...history.record, pieces } } };
};
