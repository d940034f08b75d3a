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
import { closeQueue, enqueue, getQueue, QUEUE } from '../store/queue';
import { beat, claimTask, finishTask, rescueTasks, type Task } from '../store/tasks';
import type { FullAnswer } from './protocol';

const BEAT_MS = 1000;
const RESCUE_MS = 4000;
/** A task beyond these fails, and says so. */
const LONGEST_S = 1800;
const MEMORY_MB = 3000;

const log = pino({ level: process.env.LOG_LEVEL ?? 'info' });
const name = `${os.hostname()}/${process.pid}/${randomUUID().slice(0, 6)}`;

async function run(task: Task) {
	const thread = new Worker(path.join(import.meta.dirname, 'full-thread.js'), {
		workerData: task.input,
		resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB }
	});
	let progress = 0;
	let answer: FullAnswer | undefined;
	let failure = '';
	const ended = new Promise<void>((resolve) => {
		thread.on('message', (m: FullAnswer) => {
			if (m.kind === 'progress') progress = m.share;
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
	let stopped: 'cancelled' | 'lost' | 'late' | undefined;
	const pulse = setInterval(async () => {
		try {
			if (Date.now() - began > 1000 * LONGEST_S) stopped = 'late';
			else if (!(await beat(getDb(), task.id, name, progress))) stopped = 'cancelled';
			if (stopped) await thread.terminate();
		} catch (e) {
			log.warn({ task: task.id, err: e }, 'no beat'); // the database is away for a moment: go on computing
		}
	}, BEAT_MS);
	await ended;
	clearInterval(pulse);
	const end = (state: 'done' | 'failed' | 'cancelled', message: string, result?: unknown) =>
		finishTask(getDb(), task.id, name, { state, message, result });
	if (stopped === 'cancelled') await end('cancelled', 'Cancelled.');
	else if (stopped === 'late') await end('failed', `It took longer than ${LONGEST_S / 60} minutes: set a coarser mesh or fewer runs.`);
	else if (answer?.kind === 'done') await end('done', '', answer.result);
	else await end('failed', answer?.kind === 'refused' ? answer.message : failure || 'The computation ended without an answer.');
}

const boss = await getQueue((e) => log.warn({ err: e }, 'queue'));
await boss.work<{ task: string }>(QUEUE, { batchSize: 1, pollingIntervalSeconds: 1 }, async ([entry]) => {
	const task = await claimTask(getDb(), entry.data.task, name);
	if (!task) return;
	log.info({ task: task.id, attempt: task.attempts }, 'taken');
	await run(task);
	log.info({ task: task.id }, 'over');
});
const rescue = setInterval(async () => {
	try {
		for (const id of await rescueTasks(getDb())) await enqueue(id);
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
	// a task in hand is dropped: it falls silent and another worker, or this one when it is back, takes it up
	await closeQueue().catch(() => {});
	await closeDb().catch(() => {});
	process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
