/** The exercises by name, in the order they are best done. */
export const EXERCISE_IDS = [
	'tee-tacks',
	'mitre',
	'butt',
	'box',
	'ring',
	'header',
	'gap',
	'metals',
	'patch',
	'cross-break',
	'flange',
	'planishing'
] as const;
export type ExerciseId = (typeof EXERCISE_IDS)[number];
