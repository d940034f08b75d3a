/** Drawings and models into plans: asked of a thread, so that a large STEP file holds up nobody else. */
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import type { ImportOptions } from '$core/compose/fromFlats';
import type { DxfUnit, Trouble } from '$core/formats/dxfIn';
import type { PlanDocument } from '$core/document/schema';

export const IMPORT_KINDS = ['dxf', 'step', 'stl', 'obj', 'ply'] as const;
export type ImportKind = (typeof IMPORT_KINDS)[number];
export const IMPORT_LIMIT = 40_000_000;

export interface ImportTask extends ImportOptions {
	kind: ImportKind;
	bytes: Uint8Array;
	/** where the file does not say */
	unit?: DxfUnit;
}
export interface ImportAnswer {
	plan?: PlanDocument;
	/** what was left aside, with its place where there is one */
	notes: Trouble[];
	faults: Trouble[];
	unit?: DxfUnit;
	needsUnit?: boolean;
}

const TIME_LIMIT_MS = 60_000;

export function importInThread(task: ImportTask): Promise<ImportAnswer> {
	const file = path.resolve(process.env.SARTA_NODE_BUILD_DIR || 'build-node', 'import-thread.js');
	return new Promise((resolve, reject) => {
		const worker = new Worker(file, { workerData: task, resourceLimits: { maxOldGenerationSizeMb: 2048 } });
		const timer = setTimeout(() => {
			void worker.terminate();
			resolve({ notes: [], faults: [{ words: 'Reading the file took longer than a minute: export it coarser, or in parts' }] });
		}, TIME_LIMIT_MS);
		worker.once('message', (m: ImportAnswer) => {
			clearTimeout(timer);
			resolve(m);
		});
		worker.once('error', (e) => {
			clearTimeout(timer);
			reject(e);
		});
	});
}
