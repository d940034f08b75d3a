import { getDb } from '$store/database';
import { inUse } from '$store/registers';

const ASKED = ['bar', 'strongback', 'clamp'];

export const load = async () => ({
	shop: (await inUse(getDb())).filter((r) => ASKED.includes(r.kind)).map((r) => ({ ...r, item: { ...r.item } }))
});
