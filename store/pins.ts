/** What a PIN or pass phrase must be. Pure: the form can be checked before anything is stored. */
import type { Role } from './auth';

/** 4 to 12 digits, or a pass phrase of printable characters. */
export const SECRET = /^(\d{4,12}|[\x20-\x7e\u00a0-\ud7ff\ue000-\ufffd]{8,72})$/;
export const SECRET_WORDS = 'must be a PIN of 4 to 12 digits, or a pass phrase of 8 to 72 characters';

/** An admin opens every door: a PIN of the bench is too short for one. */
const ADMIN_LENGTH = 8;

/** Why this PIN must not be taken, or nothing. */
export function weakness(pin: string, roles: readonly Role[]): string | undefined {
	if (new Set(pin).size < 3) return 'must not be the same few characters again and again';
	if (isRow(pin)) return 'must not be a row like 1234 or 9876';
	const half = pin.length / 2;
	if (Number.isInteger(half) && pin.slice(0, half) === pin.slice(half)) return 'must not be the same half twice';
	if (/^(19|20)\d\d$/.test(pin)) return 'must not be a year';
	if (roles.includes('admin') && pin.length < ADMIN_LENGTH) return `must be at least ${ADMIN_LENGTH} characters for an admin`;
	return undefined;
}

function isRow(pin: string): boolean {
	const steps = [...pin].slice(1).map((c, i) => c.charCodeAt(0) - pin.charCodeAt(i));
	// 7890 goes on past 9
	const wrapped = steps.map((s) => (s === -9 ? 1 : s === 9 ? -1 : s));
	return wrapped.every((s) => s === 1) || wrapped.every((s) => s === -1);
}

/** The demo shop's people. Their PINs are printed by bin/start and stand in the README: good on this machine, nowhere else. */
export const DEMO_PEOPLE = [
	{ name: 'Ines', pin: '14709630', roles: ['planner', 'admin'] },
	{ name: 'Bram', pin: '2580', roles: ['welder'] },
	{ name: 'Odile', pin: '3690', roles: ['inspector'] }
] as const satisfies readonly { name: string; pin: string; roles: readonly Role[] }[];

export const isPublished = (name: string, pin: string) =>
	DEMO_PEOPLE.some((p) => p.name.toLowerCase() === name.trim().toLowerCase() && p.pin === pin);
