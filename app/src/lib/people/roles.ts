export const ROLES = ['planner', 'welder', 'inspector', 'admin', 'learner'] as const;
export type Role = (typeof ROLES)[number];

export interface PersonRow {
	id: string;
	name: string;
	roles: Role[];
	archivedAt: Date | string | null;
	lockedUntil: Date | string | null;
	version: number;
}

export const toggled = (roles: readonly Role[], r: Role) => (roles.includes(r) ? roles.filter((x) => x !== r) : [...roles, r]);

/** Has the practice bench and nothing else. */
export const isLearnerOnly = (roles: readonly Role[]) => roles.every((r) => r === 'learner');
