import path from 'node:path';
import { Worker } from 'node:worker_threads';
import type { ShopFactors } from '$core/factors/factors';
import type { PieceLesson, PieceReading } from '$core/learn/fromPiece';
import type { PlanDocument } from '$core/document/schema';
import { Refusal } from '$core/refusal/refusal';

export interface LessonTask {
	plan: PlanDocument;
	prior: ShopFactors;
	readings: PieceReading[];
	fresh: string[];
}

export type LessonAnswer = { lesson: PieceLesson } | { refused: string };

/** Longer than any piece the linear method accepts should take. */
const TIME_LIMIT_MS = 120_000;

export function lessonInThread(task: LessonTask): Promise<PieceLesson> {
	const file = path.resolve(process.env.SARTA_NODE_BUILD_DIR ?? 'build-node', 'compute-thread.js');
	return new Promise((resolve, reject) => {
		const worker = new Worker(file, { workerData: JSON.parse(JSON.stringify(task)) });
		const timer = setTimeout(() => {
			void worker.terminate();
			reject(new Refusal('Working this piece out took longer than two minutes: set a coarser mesh size'));
		}, TIME_LIMIT_MS);
		const done = () => clearTimeout(timer);
		worker.once('message', (m: LessonAnswer) => {
			done();
			if ('refused' in m) reject(new Refusal(m.refused));
			else resolve(m.lesson);
		});
		worker.once('error', (e) => {
			done();
			reject(e);
		});
	});
}
