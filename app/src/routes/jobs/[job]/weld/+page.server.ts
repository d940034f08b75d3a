import { getDb } from '$store/database';
import { inUse } from '$store/registers';

const ASKED = ['source', 'tungsten', 'cup', 'filler'];

export const load = async () => ({
	shop: (await inUse(getDb())).filter((r) => ASKED.includes(r.kind)).map((r) => ({ ...r, item: { ...r.item } }))
});
