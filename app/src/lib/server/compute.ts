/** What takes the server more than a moment goes to a thread of its own, so that pages are answered meanwhile. */
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Finding } from '$core/access/access';
import type { ShopFactors } from '$core/factors/factors';
import type { PieceLesson, PieceReading } from '$core/learn/fromPiece';
import type { PlanDocument } from '$core/document/schema';
import { Refusal } from '$core/refusal/refusal';
import type { BenchPlan } from '$core/weldout/benchPlan';

export interface LessonTask {
	plan: PlanDocument;
	prior: ShopFactors;
	readings: PieceReading[];
	fresh: string[];
}
export type ComputeTask = ({ kind: 'lesson' } & LessonTask) | { kind: 'bench'; plan: PlanDocument } | { kind: 'access'; plan: PlanDocument };
export type ComputeAnswer = { result: unknown } | { refused: string };

/** Longer than any piece the linear method accepts should take. */
const TIME_LIMIT_MS = 120_000;

function inThread<T>(task: ComputeTask): Promise<T> {
	const file = path.resolve(process.env.SARTA_NODE_BUILD_DIR ?? 'build-node', 'compute-thread.js');
	return new Promise((resolve, reject) => {
		const worker = new Worker(file, { workerData: JSON.parse(JSON.stringify(task)) });
		const timer = setTimeout(() => {
			void worker.terminate();
			reject(new Refusal('Working this piece out took longer than two minutes: set a coarser mesh size'));
		}, TIME_LIMIT_MS);
		const done = () => clearTimeout(timer);
		worker.once('message', (m: ComputeAnswer) => {
			done();
			if ('refused' in m) reject(new Refusal(m.refused));
			else resolve(m.result as T);
		});
		worker.once('error', (e) => {
			done();
			reject(e);
		});
	});
}

export const lessonInThread = (task: LessonTask) => inThread<PieceLesson>({ kind: 'lesson', ...task });
/** What an assembly closes off, and what of a plan cannot be done. */
export const findingsOf = (plan: PlanDocument) => inThread<Finding[]>({ kind: 'access', plan });

/** Steps of a plan as it was stored, with their pictures: worked out once, and by whoever asks first. */
const kept = new Map<string, Promise<BenchPlan>>();
const MOST_KEPT = 100;
export function benchPlanOf(stored: { id: string; version: number; document: PlanDocument }): Promise<BenchPlan> {
	const key = `${stored.id}/${stored.version}`;
	let steps = kept.get(key);
	if (!steps) {
		if (kept.size >= MOST_KEPT) kept.clear();
		kept.set(key, (steps = inThread<BenchPlan>({ kind: 'bench', plan: stored.document })));
		// a fault is not kept: whoever asks next tries again
		steps.catch(() => kept.delete(key));
	}
	return steps;
}
