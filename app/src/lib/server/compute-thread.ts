/** Heavy computation of the server, in a thread of its own: the page server stays free meanwhile. */
import { kernelFactory } from '$core/linalg/kernel/kernel';
import 'reflect-metadata';
import { parentPort, workerData } from 'node:worker_threads';
import { lessonFrom } from '$core/learn/fromPiece';
import type { LessonTask } from './compute';

const task = workerData as LessonTask;
parentPort?.postMessage(lessonFrom(task.plan, task.prior, task.readings, new Set(task.fresh), kernelFactory(WebAssembly)));
