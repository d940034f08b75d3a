/** What watched arcs have come to, kept between jobs. */
import { count, desc, eq, inArray, ne } from 'drizzle-orm';
import { HOT_MODEL, type Said } from '../core/hot/factors';
import type { Connection } from './database';
import { hotAnswers } from './schema';

/** Kept at most: some hundred bytes each, all read when a search begins. The oldest go. */
export const MOST_ANSWERS = 5000;

/** By key, of the model in use. */
export async function knownAnswers(db: Connection): Promise<Record<string, Said>> {
	const rows = await db.select({ key: hotAnswers.key, said: hotAnswers.said }).from(hotAnswers).where(eq(hotAnswers.model, HOT_MODEL));
	return Object.fromEntries(rows.map((r) => [r.key, r.said]));
}

/** Adds what is new; answers of another model, and more than are kept, go. */
export async function keepAnswers(db: Connection, answers: Readonly<Record<string, Said>>): Promise<void> {
	const rows = Object.entries(answers).map(([key, said]) => ({ key, model: HOT_MODEL, said }));
	if (!rows.length) return;
	await db.delete(hotAnswers).where(ne(hotAnswers.model, HOT_MODEL));
	await db.insert(hotAnswers).values(rows).onConflictDoNothing();
	const [{ has }] = await db.select({ has: count() }).from(hotAnswers);
	if (has <= MOST_ANSWERS) return;
	const old = await db.select({ key: hotAnswers.key }).from(hotAnswers).orderBy(desc(hotAnswers.madeAt)).offset(MOST_ANSWERS);
	await db.delete(hotAnswers).where(
		inArray(
			hotAnswers.key,
			old.map((o) => o.key)
		)
	);
}
