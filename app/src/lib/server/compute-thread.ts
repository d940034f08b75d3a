/** Heavy computation of the server, in a thread of its own: the page server stays free meanwhile. */
import { kernelFactory } from '$core/linalg/kernel/kernel';
import 'reflect-metadata';
import { parentPort, workerData } from 'node:worker_threads';
import { accessFindings } from '$core/access/access';
import { lessonFrom } from '$core/learn/fromPiece';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { isRefusal } from '$core/refusal/refusal';
import { benchPlan } from '$core/weldout/benchPlan';
import type { ComputeAnswer, ComputeTask } from './compute';

function work(task: ComputeTask): unknown {
	switch (task.kind) {
		case 'lesson':
			return lessonFrom(task.plan, task.prior, task.readings, new Set(task.fresh), kernelFactory(WebAssembly));
		case 'bench':
			return benchPlan(task.plan);
		case 'access':
			return accessFindings(task.plan, assemblyMesh(task.plan));
	}
}

try {
	parentPort?.postMessage({ result: work(workerData as ComputeTask) } satisfies ComputeAnswer);
} catch (e) {
	// what a person may be told goes back as words; anything else ends the thread as a fault
	if (!isRefusal(e)) throw e;
	parentPort?.postMessage({ refused: e.message } satisfies ComputeAnswer);
}
