/** What a compute thread is given and tells its worker. */
import type { Forecast } from '../core/forecast/forecast';
import type { Said } from '../core/hot/factors';
import type { TaskInput, TaskKind } from '../store/schema';

/** A full forecast as it is kept: shapes as base64 of 32-bit floats, one per step. */
export interface FullResult {
	result: Forecast;
	steps: string[];
	other?: string;
}
export interface ThreadInput {
	kind: TaskKind;
	input: TaskInput;
	/** one number: not 0 asks the thread to end with what it has */
	stop: SharedArrayBuffer;
	/** what watched arcs have come to before, by seam */
	answers?: Record<string, Said>;
}
export type ThreadAnswer =
	| { kind: 'progress'; share: number; partial?: unknown }
	/** `stopped`: ended early, with what there was */
	| { kind: 'done'; result: unknown; stopped?: boolean }
	| { kind: 'refused'; message: string }
	/** what an arc that was watched here came to */
	| { kind: 'watched'; key: string; said: Said };
