/** What a compute thread tells its worker. */
import type { Forecast } from '../core/forecast/forecast';

/** A full forecast as it is kept: shapes as base64 of 32-bit floats, one per step. */
export interface FullResult {
	result: Forecast;
	steps: string[];
	other?: string;
}
export type FullAnswer = { kind: 'progress'; share: number } | { kind: 'done'; result: FullResult } | { kind: 'refused'; message: string };
