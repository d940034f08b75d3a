/** The practice bench: what each person has done of its exercises, and what was set to whom. Attempts are added and never changed. */
import { and, desc, eq, min } from 'drizzle-orm';
import type { ExerciseId } from '../core/practice/ids';
import type { Connection } from './database';
import { people, practiceAttempts, practiceSet } from './schema';

export type Attempt = typeof practiceAttempts.$inferSelect;

export async function addAttempt(db: Connection, attempt: Omit<typeof practiceAttempts.$inferInsert, 'id' | 'createdAt'>): Promise<Attempt> {
	const [row] = await db.insert(practiceAttempts).values(attempt).returning();
	return row;
}

/** Least cost that any plan of anybody came to. @param method it was forecast by: another method's costs are of another shop */
export async function bestCost(db: Connection, exercise: ExerciseId, method: string): Promise<number | undefined> {
	const [row] = await db
		.select({ best: min(practiceAttempts.cost) })
		.from(practiceAttempts)
		.where(and(eq(practiceAttempts.exercise, exercise), eq(practiceAttempts.method, method)));
	return row.best ?? undefined;
}

/** Newest first. */
export const attemptsOf = (db: Connection, person: string, exercise: ExerciseId): Promise<Attempt[]> =>
	db
		.select()
		.from(practiceAttempts)
		.where(and(eq(practiceAttempts.personId, person), eq(practiceAttempts.exercise, exercise)))
		.orderBy(desc(practiceAttempts.createdAt));

/** Every score and everything that is set, by person, for their own page and for whoever sets exercises. */
export async function progress(db: Connection) {
	const done = await db
		.select({
			person: practiceAttempts.personId,
			name: people.name,
			exercise: practiceAttempts.exercise,
			score: practiceAttempts.score,
			at: practiceAttempts.createdAt
		})
		.from(practiceAttempts)
		.innerJoin(people, eq(people.id, practiceAttempts.personId));
	const set = await db
		.select({ person: practiceSet.personId, exercise: practiceSet.exercise, at: practiceSet.createdAt, by: people.name })
		.from(practiceSet)
		.innerJoin(people, eq(people.id, practiceSet.setBy));
	return { done, set };
}

/** Once for each person and exercise; setting it again changes nothing. */
export const setExercise = (db: Connection, exercise: ExerciseId, personId: string, setBy: string) =>
	db.insert(practiceSet).values({ exercise, personId, setBy }).onConflictDoNothing();

export const allPractice = async (db: Connection) => ({
	attempts: await db.select().from(practiceAttempts),
	set: await db.select().from(practiceSet)
});
