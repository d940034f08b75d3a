/** Tasks: made once for an input, taken by one worker at a time, given back when the worker falls silent. */
import { createHash } from 'node:crypto';
import { and, desc, eq, inArray, lt, ne, sql } from 'drizzle-orm';
import type { Connection } from './database';
import { MissingError } from './jobs';
import { tasks, type TaskInput, type TaskKind } from './schema';

/** Of the methods behind the answers: one by another version is not found again. */
const VERSIONS: Record<TaskKind, number> = { 'full-forecast': 2, 'order-search': 4, 'hold-advice': 2, presets: 2, replan: 1, proposal: 1 };
/** These end with what they have found so far when they are asked to stop. */
export const KEEPS_PARTIAL: readonly TaskKind[] = ['order-search', 'hold-advice', 'presets', 'replan', 'proposal'];
/** A running task whose worker has been silent for this long is taken up by another, s. */
export const SILENT_S = 12;
/** After this many workers have died on it, a task is given up: it may be what kills them. */
export const MOST_ATTEMPTS = 3;

export type Task = typeof tasks.$inferSelect;
/** what a page needs to know; input and result are large and asked for apart */
export type TaskHead = Pick<
	Task,
	'id' | 'kind' | 'jobId' | 'inputHash' | 'state' | 'progress' | 'message' | 'attempts' | 'partial' | 'createdAt' | 'finishedAt'
>;
const HEAD = {
	id: tasks.id,
	kind: tasks.kind,
	jobId: tasks.jobId,
	inputHash: tasks.inputHash,
	state: tasks.state,
	progress: tasks.progress,
	message: tasks.message,
	attempts: tasks.attempts,
	partial: tasks.partial,
	createdAt: tasks.createdAt,
	finishedAt: tasks.finishedAt
};

/** Keys in a fixed order: a document that went through jsonb comes back with its keys sorted otherwise. */
function stable(v: unknown): unknown {
	if (Array.isArray(v)) return v.map(stable);
	if (typeof v === 'object' && v !== null)
		return Object.fromEntries(
			Object.entries(v)
				.filter(([, x]) => x !== undefined)
				.sort(([a], [b]) => (a < b ? -1 : 1))
				.map(([k, x]) => [k, stable(x)])
		);
	return v;
}
export const inputHash = (kind: TaskKind, input: TaskInput) =>
	createHash('sha256')
		.update(JSON.stringify([VERSIONS[kind], stable(input)]))
		.digest('hex');
/** Whether two plans are the same document, whatever the order of their keys. */
export const isSamePlan = (p: unknown, q: unknown) => JSON.stringify(stable(p)) === JSON.stringify(stable(q));

/** The task for this input: the one there is, unless it failed or was cancelled, or a new one. */
export async function taskFor(
	db: Connection,
	jobId: string,
	kind: TaskKind,
	input: TaskInput,
	by: string
): Promise<{ task: TaskHead; fresh: boolean }> {
	const hash = inputHash(kind, input);
	const [made] = await db.insert(tasks).values({ kind, jobId, inputHash: hash, input, createdBy: by }).onConflictDoNothing().returning(HEAD);
	if (made) return { task: made, fresh: true };
	const [found] = await db
		.select(HEAD)
		.from(tasks)
		.where(and(eq(tasks.kind, kind), eq(tasks.inputHash, hash), inArray(tasks.state, ['queued', 'running', 'done'])));
	if (!found) return taskFor(db, jobId, kind, input, by); // cancelled in between
	return { task: found, fresh: false };
}

export async function latestTask(db: Connection, jobId: string, kind: TaskKind, hash: string): Promise<TaskHead | undefined> {
	const [t] = await db
		.select(HEAD)
		.from(tasks)
		.where(and(eq(tasks.jobId, jobId), eq(tasks.kind, kind), eq(tasks.inputHash, hash)))
		.orderBy(desc(tasks.createdAt))
		.limit(1);
	return t;
}
/** The newest task of a kind for this job, with what it was asked; its plan may be an older one. */
export async function newestTask(db: Connection, jobId: string, kind: TaskKind): Promise<{ task: TaskHead; input: TaskInput } | undefined> {
	const [t] = await db
		.select({ ...HEAD, input: tasks.input })
		.from(tasks)
		.where(and(eq(tasks.jobId, jobId), eq(tasks.kind, kind)))
		.orderBy(desc(tasks.createdAt))
		.limit(1);
	if (!t) return undefined;
	const { input, ...task } = t;
	return { task, input };
}
export async function taskHead(db: Connection, id: string): Promise<TaskHead> {
	const [t] = await db.select(HEAD).from(tasks).where(eq(tasks.id, id));
	if (!t) throw new MissingError('This task');
	return t;
}
/** What was asked and what came of it. */
export async function wholeTask(db: Connection, id: string): Promise<Pick<Task, 'kind' | 'input' | 'result'>> {
	const [t] = await db.select({ kind: tasks.kind, input: tasks.input, result: tasks.result }).from(tasks).where(eq(tasks.id, id));
	if (!t) throw new MissingError('This task');
	return t;
}

export async function taskResult(db: Connection, id: string): Promise<unknown> {
	const [t] = await db.select({ result: tasks.result }).from(tasks).where(eq(tasks.id, id));
	if (!t) throw new MissingError('This task');
	return t.result;
}

/** Asks for an end: at once when nobody has it yet, else the worker sees it at its next beat. */
export async function cancelTask(db: Connection, id: string): Promise<TaskHead> {
	await db
		.update(tasks)
		.set({ state: 'cancelled', finishedAt: new Date(), message: 'Cancelled.' })
		.where(and(eq(tasks.id, id), eq(tasks.state, 'queued')));
	await db
		.update(tasks)
		.set({ cancelAsked: true })
		.where(and(eq(tasks.id, id), eq(tasks.state, 'running')));
	return taskHead(db, id);
}

/** Ends what was asked of a piece before this task and is not over. @returns ids of those that nobody had begun */
export async function endOlderReplans(db: Connection, piece: string, but: string): Promise<string[]> {
	const older = await db
		.select({ id: tasks.id })
		.from(tasks)
		.where(
			and(
				eq(tasks.kind, 'replan'),
				inArray(tasks.state, ['queued', 'running']),
				ne(tasks.id, but),
				sql`${tasks.input} -> 'piece' ->> 'id' = ${piece}`
			)
		);
	const ended = [];
	for (const { id } of older) ended.push(await cancelTask(db, id));
	return ended.flatMap((t) => (t.state === 'cancelled' ? [t.id] : []));
}

// --- the worker's side ---

/** Takes a queued task for this worker; undefined when somebody else has it or it is over. */
export async function claimTask(db: Connection, id: string, worker: string): Promise<Task | undefined> {
	const [t] = await db
		.update(tasks)
		.set({ state: 'running', worker, heartbeatAt: sql`now()`, startedAt: sql`now()`, attempts: sql`${tasks.attempts} + 1`, progress: 0 })
		.where(and(eq(tasks.id, id), eq(tasks.state, 'queued')))
		.returning();
	return t;
}
/** A sign of life. @returns whether to go on: false when it was cancelled or given to another */
export async function beat(db: Connection, id: string, worker: string, progress: number, partial?: unknown): Promise<boolean> {
	const [t] = await db
		.update(tasks)
		.set({ heartbeatAt: sql`now()`, progress: Math.min(1, Math.max(0, progress)), ...(partial === undefined ? {} : { partial }) })
		.where(and(eq(tasks.id, id), eq(tasks.worker, worker), eq(tasks.state, 'running')))
		.returning({ cancelAsked: tasks.cancelAsked });
	return t !== undefined && !t.cancelAsked;
}
export async function finishTask(
	db: Connection,
	id: string,
	worker: string,
	end: { state: 'done' | 'failed' | 'cancelled'; message: string; result?: unknown }
) {
	await db
		.update(tasks)
		.set({ ...end, finishedAt: sql`now()`, progress: end.state === 'done' ? 1 : undefined })
		.where(and(eq(tasks.id, id), eq(tasks.worker, worker), eq(tasks.state, 'running')));
}
/** A worker that is told to end gives its task back: that is no death, and does not count as a try. @returns whether it was still its own */
export async function giveBack(db: Connection, id: string, worker: string): Promise<boolean> {
	const rows = await db
		.update(tasks)
		.set({ state: 'queued', worker: null, heartbeatAt: sql`now()`, attempts: sql`greatest(0, ${tasks.attempts} - 1)` })
		.where(and(eq(tasks.id, id), eq(tasks.worker, worker), eq(tasks.state, 'running')))
		.returning({ id: tasks.id });
	return rows.length > 0;
}
/** Puts tasks of silent workers back. @returns ids to queue again: `back` before all others, `stale` in their turn */
export async function rescueTasks(db: Connection): Promise<{ back: string[]; stale: string[]; over: string[] }> {
	const silent = lt(tasks.heartbeatAt, sql`now() - make_interval(secs => ${SILENT_S})`);
	const over = await db
		.update(tasks)
		.set({ state: 'failed', finishedAt: sql`now()`, message: `Given up: ${MOST_ATTEMPTS} workers died on it. Try a coarser mesh.` })
		.where(and(eq(tasks.state, 'running'), silent, sql`${tasks.attempts} >= ${MOST_ATTEMPTS}`))
		.returning({ id: tasks.id });
	const back = await db
		.update(tasks)
		.set({ state: 'queued', worker: null, heartbeatAt: sql`now()` })
		.where(and(eq(tasks.state, 'running'), silent))
		.returning({ id: tasks.id });
	// queued a while ago and still waiting: its entry may have died with a worker; a second entry does no harm
	const stale = await db
		.update(tasks)
		.set({ heartbeatAt: sql`now()` })
		.where(
			and(eq(tasks.state, 'queued'), lt(sql`coalesce(${tasks.heartbeatAt}, ${tasks.createdAt})`, sql`now() - make_interval(secs => ${2 * SILENT_S})`))
		)
		.returning({ id: tasks.id });
	const ids = (rows: { id: string }[]) => rows.map((r) => r.id);
	return { back: ids(back), stale: ids(stale), over: ids(over) };
}
