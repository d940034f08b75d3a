/** General tolerances for welded constructions, ISO 13920:1996, tables 1 to 3 (values from memory). */
import { Refusal } from '../refusal/refusal';

export type LinearClass = 'A' | 'B' | 'C' | 'D';
export type FormClass = 'E' | 'F' | 'G' | 'H';

const LINEAR_TO = [30, 120, 400, 1000, 2000, 4000];
const LINEAR: Record<LinearClass, number[]> = { A: [1, 1, 1, 2, 3, 4], B: [1, 2, 2, 3, 4, 6], C: [1, 3, 4, 6, 8, 11], D: [1, 4, 7, 9, 12, 16] };
const ANGLE_TO = [400, 1000, Infinity];
const ANGLE_MINUTES: Record<LinearClass, number[]> = { A: [20, 15, 10], B: [45, 30, 20], C: [60, 45, 30], D: [90, 75, 60] };
const FORM_TO = [120, 400, 1000, 2000, 4000];
const FORM: Record<FormClass, number[]> = { E: [0.5, 1, 1.5, 2, 3], F: [1, 1.5, 3, 4.5, 6], G: [1.5, 3, 5.5, 9, 11], H: [2.5, 5, 9, 14, 18] };

const pick = (to: number[], values: number[], nominal: number, what: string) => {
	const i = to.findIndex((limit) => nominal <= limit);
	if (!(nominal > 0) || i < 0)
		throw new Refusal(`ISO 13920 here covers ${what} above 0 and up to ${to[to.length - 1]} mm; ${nominal} mm was asked for`);
	return values[i];
};

/** Plus or minus, mm, for a length. */
export const linearTolerance = (c: LinearClass, nominalMm: number) => pick(LINEAR_TO, LINEAR[c], nominalMm, 'lengths');
/** Plus or minus, degrees, by the shorter side. */
export const angleTolerance = (c: LinearClass, shortSideMm: number) => pick(ANGLE_TO, ANGLE_MINUTES[c], shortSideMm, 'angles') / 60;
/** Straightness, flatness, parallelism: mm, by the longer side. */
export const formTolerance = (c: FormClass, longSideMm: number) => pick(FORM_TO, FORM[c], longSideMm, 'straightness and flatness');
