/** The queue library, opened when first needed. A queue entry only says "look at this task"; the task's row holds the truth. */
import PgBoss from 'pg-boss';

export const QUEUE = 'forecast';
/** longer than any task may take: our own heartbeat finds dead workers long before */
const EXPIRE_S = 3600;

let opened: Promise<PgBoss> | undefined;

export function getQueue(onError: (e: Error) => void = () => {}): Promise<PgBoss> {
	opened ??= (async () => {
		const url = process.env.DATABASE_URL;
		if (!url) throw new Error('DATABASE_URL is not set: start the program with bin/start');
		const boss = new PgBoss({ connectionString: url, max: 3 });
		boss.on('error', onError);
		await boss.start();
		await boss.createQueue(QUEUE);
		return boss;
	})();
	// a database that was not there yet may be there at the next try
	opened.catch(() => (opened = undefined));
	return opened;
}

/** Of the night: whichever worker keeps backups takes it, once. */
export const NIGHT = 'night';

/** Higher goes first. */
const RESCUED = 1;

/** One entry a task, under the task's own id: what an earlier entry has become, alive or dead, goes. @param first before what is new */
export const enqueue = async (task: string, first = false) => {
	const queue = await getQueue();
	await queue.deleteJob(QUEUE, task);
	await queue.send(QUEUE, { task }, { id: task, retryLimit: 0, expireInSeconds: EXPIRE_S, priority: first ? RESCUED : 0 });
};
/** A task that nobody will take any more leaves no entry behind. */
export const dequeue = async (task: string) => void (await (await getQueue()).deleteJob(QUEUE, task));

export async function closeQueue(wait = false) {
	const boss = await opened?.catch(() => undefined);
	opened = undefined;
	await boss?.stop({ graceful: wait, wait, timeout: 10_000 });
}
