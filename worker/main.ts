/**
 * The worker: takes tasks from the queue, one at a time, computes in a thread, reports progress and life every second.
 * Any number may run, on any machine that reaches the database; a task whose worker falls silent is taken up by another.
 */
import 'reflect-metadata';
import { randomUUID } from 'node:crypto';
import os from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import pino from 'pino';
import { closeDb, getDb } from '../store/database';
import { patiently } from '../store/away';
import { keepAnswers, knownAnswers } from '../store/hotAnswers';
import type { Said } from '../core/hot/factors';
import { closeQueue, dequeue, enqueue, getQueue, NIGHT, QUEUE } from '../store/queue';
import { backupFolder, nightlyBackup, nightlyCron } from '../store/nightly';
import { beat, claimTask, finishTask, giveBack, KEEPS_PARTIAL, rescueTasks, type Task } from '../store/tasks';
import type { ThreadAnswer, ThreadInput } from './protocol';

const BEAT_MS = 1000;
const RESCUE_MS = 4000;
/** A task beyond these fails, and says so. */
const LONGEST_S = 1800;
const MEMORY_MB = 3000;
/** Asked to end with what it has, a thread is given this long, s. */
const GRACE_S = 60;
/** A database that is away is waited for this long with an answer in hand; at the start without end. */
const PATIENCE_MS = 600_000;

const log = pino({ level: process.env.LOG_LEVEL ?? 'info' });
const name = `${os.hostname()}/${process.pid}/${randomUUID().slice(0, 6)}`;

/** In hand now. */
let current: Task | undefined;

async function run(task: Task) {
	const stop = new SharedArrayBuffer(4);
	// without them it takes longer and comes to the same
	const answers = task.kind === 'order-search' ? await knownAnswers(getDb()).catch(() => ({})) : {};
	const found: Record<string, Said> = {};
	const thread = new Worker(path.join(import.meta.dirname, 'task-thread.js'), {
		workerData: { kind: task.kind, input: task.input, stop, answers } satisfies ThreadInput,
		resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB }
	});
	let progress = 0;
	let partial: unknown;
	let answer: ThreadAnswer | undefined;
	let failure = '';
	const ended = new Promise<void>((resolve) => {
		thread.on('message', (m: ThreadAnswer) => {
			if (m.kind === 'progress') {
				progress = m.share;
				partial = m.partial ?? partial;
			} else if (m.kind === 'watched') found[m.key] = m.said;
			else answer = m;
		});
		thread.on('error', (e: Error & { code?: string }) => {
			failure =
				e.code === 'ERR_WORKER_OUT_OF_MEMORY'
					? `It needs more than ${MEMORY_MB} MB: set a coarser mesh.`
					: 'The computation broke off. Try a coarser mesh.';
			log.error({ task: task.id, err: e }, 'task broke off');
		});
		thread.on('exit', () => resolve());
	});
	const began = Date.now();
	let stopped: 'cancelled' | 'late' | undefined;
	let askedAt: number | undefined;
	const pulse = setInterval(async () => {
		try {
			const isLate = Date.now() - began > 1000 * LONGEST_S;
			if (!(await beat(getDb(), task.id, name, progress, partial)) || isLate) {
				// what can keep its best so far is given the time to say it
				askedAt ??= Date.now();
				Atomics.store(new Int32Array(stop), 0, 1);
				if (!KEEPS_PARTIAL.includes(task.kind) || Date.now() - askedAt > 1000 * GRACE_S) stopped = isLate ? 'late' : 'cancelled';
			}
			if (stopped) await thread.terminate();
		} catch (e) {
			log.warn({ task: task.id, err: e }, 'no beat'); // the database is away for a moment: go on computing
		}
	}, BEAT_MS);
	await ended;
	clearInterval(pulse);
	await keepAnswers(getDb(), found).catch((e: unknown) => log.warn({ task: task.id, err: e }, 'watched arcs not kept'));
	const end = (state: 'done' | 'failed' | 'cancelled', message: string, result?: unknown) =>
		patiently(() => finishTask(getDb(), task.id, name, { state, message, result }), PATIENCE_MS);
	if (stopped === 'cancelled') await end('cancelled', 'Cancelled.');
	else if (stopped === 'late') await end('failed', `It took longer than ${LONGEST_S / 60} minutes: set a coarser mesh or fewer runs.`);
	else if (answer?.kind === 'done')
		await end(answer.stopped ? 'cancelled' : 'done', answer.stopped ? 'Stopped: this is what had been found.' : '', answer.result);
	else await end('failed', answer?.kind === 'refused' ? answer.message : failure || 'The computation ended without an answer.');
}

const boss = await patiently(() => getQueue((e) => log.warn({ err: e }, 'queue')), Infinity);
await boss.work<{ task: string }>(QUEUE, { batchSize: 1, pollingIntervalSeconds: 1 }, async ([entry]) => {
	const task = await claimTask(getDb(), entry.data.task, name);
	if (!task) return;
	log.info({ task: task.id, attempt: task.attempts }, 'taken');
	current = task;
	await run(task);
	current = undefined;
	log.info({ task: task.id }, 'over');
});
if (backupFolder()) {
	await boss.createQueue(NIGHT);
	try {
		await boss.schedule(NIGHT, nightlyCron(), undefined, { tz: Intl.DateTimeFormat().resolvedOptions().timeZone });
	} catch (e) {
		// forecasts go on, and the People page shows that the last backup grows old
		log.error({ err: e }, `SARTA_BACKUP_CRON is “${nightlyCron()}”: it takes five fields as in cron; the time set before stands`);
	}
	await boss.work(NIGHT, { batchSize: 1, pollingIntervalSeconds: 30 }, async () => {
		try {
			log.info({ file: await nightlyBackup(getDb()) }, 'backup');
		} catch (e) {
			log.error({ err: e }, 'backup failed');
		}
	});
}
const rescue = setInterval(async () => {
	try {
		const { back, stale, over } = await rescueTasks(getDb());
		for (const id of back) await enqueue(id, true);
		for (const id of stale) await enqueue(id);
		for (const id of over) await dequeue(id);
	} catch (e) {
		log.warn({ err: e }, 'rescue');
	}
}, RESCUE_MS);
log.info({ worker: name }, 'worker ready');

let going = false;
async function stop() {
	if (going) return;
	going = true;
	clearInterval(rescue);
	// a task in hand goes back to the head of the queue: another worker, or this one when it is back, takes it up at once
	const given = current && (await giveBack(getDb(), current.id, name).catch(() => false)) ? current.id : undefined;
	await closeQueue().catch(() => {});
	// only now: the queue fails the entries of a worker that leaves it
	if (given) await enqueue(given, true).catch(() => {});
	await closeQueue().catch(() => {});
	await closeDb().catch(() => {});
	process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
