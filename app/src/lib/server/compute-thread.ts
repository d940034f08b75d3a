/** Heavy computation of the server, in a thread of its own: the page server stays free meanwhile. */
import { kernelFactory } from '$core/linalg/kernel/kernel';
import 'reflect-metadata';
import { parentPort, workerData } from 'node:worker_threads';
import { lessonFrom } from '$core/learn/fromPiece';
import { isRefusal } from '$core/refusal/refusal';
import type { LessonAnswer, LessonTask } from './compute';

const task = workerData as LessonTask;
try {
	const lesson = lessonFrom(task.plan, task.prior, task.readings, new Set(task.fresh), kernelFactory(WebAssembly));
	parentPort?.postMessage({ lesson } satisfies LessonAnswer);
} catch (e) {
	// what a person may be told goes back as words; anything else ends the thread as a fault
	if (!isRefusal(e)) throw e;
	parentPort?.postMessage({ refused: e.message } satisfies LessonAnswer);
}
