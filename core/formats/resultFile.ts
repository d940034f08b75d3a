/** The result file of a forecast: see docs/result-file.md and docs/result-file.schema.json. */
import type { Forecast } from '../forecast/forecast';

/** 2: depth, final shape and full reports; margins by the buckling solution have no force of their own; heat through the weld-out. */
export const RESULT_FILE_VERSION = 2;

/** NaN and infinities are faults of the program: they stop here instead of becoming null in a file. @throws Error naming the field */
function finite(value: unknown, path: string): void {
	if (typeof value === 'number' && !Number.isFinite(value)) throw new Error(`The forecast holds a number that is none: ${path}`);
	if (typeof value === 'object' && value !== null) for (const [k, v] of Object.entries(value)) finite(v, `${path}.${k}`);
}

export function resultFile(job: string, f: Forecast): string {
	finite(f, 'result');
	const {
		depth,
		method,
		finalShape,
		full,
		hot,
		checked,
		factors,
		features,
		probes,
		datum,
		steps,
		seams,
		schedule,
		margins,
		warnings,
		consistencyMm,
		size,
		timings
	} = f;
	return `${JSON.stringify({ format: 'sarta-result', version: RESULT_FILE_VERSION, job, depth, method, finalShape, full, hot, checked, factors, features, probes, datum, steps, seams, schedule, margins, warnings, consistencyMm, size, timings }, null, '\t')}\n`;
}
