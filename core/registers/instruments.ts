/** What instruments read, and what is said of one whose calibration has run out. */

/** What an instrument reads; the unit of its uncertainty goes with it. */
export const QUANTITIES = ['length', 'angle', 'temperature', 'oxygen', 'current'] as const;
export type Quantity = (typeof QUANTITIES)[number];
export const QUANTITY_UNIT: Readonly<Record<Quantity, string>> = { length: 'mm', angle: '°', temperature: 'K', oxygen: '%', current: 'A' };

/** An instrument as it is named beside a reading. @param on when it was read */
export function instrumentWords(instrument: string, dueOn: string | null | undefined, on: string | Date): string {
	const out = calibrationWords(typeof on === 'string' ? on : on.toISOString(), dueOn);
	return out ? `${instrument} (${out})` : instrument;
}

/** Said beside what an instrument read, where its calibration had run out. @param on the day it was read, ISO 8601; @param dueOn last day it was good, or not known */
export const calibrationWords = (on: string, dueOn: string | null | undefined): string | undefined =>
	dueOn && on.slice(0, 10) > dueOn ? `calibration ran out ${dueOn}` : undefined;
