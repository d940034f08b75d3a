/**
 * Whether a reading says that a feature keeps its limits. By ISO 14253-1:2017 (from memory) conformity is proved where the value lies inside
 * by more than a guard band of 1.65 standard uncertainties, for 95 % at a limit; the same the other way for what is outside; between them
 * it is in doubt. 1.65 standard uncertainties are the half-width of the band that holds 90 %, which every reading carries.
 */
export const DECISIONS = ['as-read', 'guard-band'] as const;
/** `as-read`: the value counts as it was read, and what is in doubt is told; `guard-band`: inside only where it is proved. */
export type Decision = (typeof DECISIONS)[number];
export const DECISION_WORDS: Record<Decision, string> = {
	'as-read': 'counts as it was read',
	'guard-band': 'must be inside by its uncertainty (ISO 14253-1)'
};
