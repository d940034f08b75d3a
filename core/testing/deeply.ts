/**
 * Checks that take long and that others stand in for day by day: `npm run deep` runs them, and what they said is in docs/studies/deep.md.
 * Everywhere else they are not there, and so neither passed nor skipped.
 */
import { describe, inject, it } from 'vitest';

declare module 'vitest' {
	export interface ProvidedContext {
		isDeep: boolean;
	}
}

const isDeep = inject('isDeep');

/** In place of `it`. */
export function deeply(
	...test: [name: string, body: () => unknown, timeoutMs?: number] | [name: string, options: { timeout: number }, body: () => unknown]
): void {
	if (isDeep) it(...(test as Parameters<typeof it>));
}
/** Of the cases of `it.each`, all where time is taken, else without the slow ones. */
export const withoutSlow = <T>(cases: readonly T[], isSlow: (c: T) => boolean): T[] => cases.filter((c) => isDeep || !isSlow(c));
/** In place of `describe`, where all of its checks are slow. */
export function deepSuite(name: string, body: () => void): void {
	if (isDeep) describe(name, body);
}
