/** What the shop has decided for itself. A question without a row is answered as shipped. */
import { count, isNull } from 'drizzle-orm';
import type { InspectorMayWeld } from '../core/document/words';
import { writeAudit, type AuditEntry } from './audit';
import type { Database, Connection } from './database';
import { people, shopSettings } from './schema';

export interface ShopSettings {
	inspectorMayWeld: InspectorMayWeld;
}
const SHIPPED: ShopSettings = { inspectorMayWeld: 'alone' };

export async function readSettings(db: Connection): Promise<ShopSettings> {
	const rows = await db.select({ key: shopSettings.key, value: shopSettings.value }).from(shopSettings);
	return { ...SHIPPED, ...Object.fromEntries(rows.map((r) => [r.key, r.value])) };
}

export async function saveSetting<K extends keyof ShopSettings>(db: Database, key: K, value: ShopSettings[K], by: AuditEntry & { by: string }) {
	await db.transaction(async (tx) => {
		await tx
			.insert(shopSettings)
			.values({ key, value, updatedBy: by.by })
			.onConflictDoUpdate({ target: shopSettings.key, set: { value, updatedBy: by.by, updatedAt: new Date() } });
		await writeAudit(tx, 'setting-changed', { ...by, about: `${key}: ${String(value)}` });
	});
}

/** Whether somebody who has welded on a piece may sign it here and now. */
export async function inspectorMayHaveWelded(db: Connection): Promise<boolean> {
	const { inspectorMayWeld } = await readSettings(db);
	if (inspectorMayWeld !== 'alone') return inspectorMayWeld === 'always';
	const [{ n }] = await db.select({ n: count() }).from(people).where(isNull(people.archivedAt));
	return n <= 1;
}
