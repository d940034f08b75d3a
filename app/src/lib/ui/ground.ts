/** The ground everything is drawn on, kept by the device: a bright shop and a dim booth are not one person's taste. `static/ground.js` sets it before a page is drawn. */
const KEY = 'sarta-ground';
export const GROUNDS = ['light', 'dark', 'device'] as const;
export type Ground = (typeof GROUNDS)[number];

export function groundKept(): Ground {
	try {
		return GROUNDS.find((g) => g === localStorage.getItem(KEY)) ?? 'light';
	} catch {
		return 'light';
	}
}

export const isDarkGround = (ground: Ground, deviceIsDark: boolean): boolean => ground === 'dark' || (ground === 'device' && deviceIsDark);

/** Browser only: draws on it from now on, and next time. */
export function useGround(ground: Ground): void {
	try {
		localStorage.setItem(KEY, ground);
	} catch {
		// it holds for this visit
	}
	showGround(ground);
}

function showGround(ground: Ground): void {
	const { dataset } = document.documentElement;
	if (isDarkGround(ground, matchMedia('(prefers-color-scheme: dark)').matches)) dataset.ground = 'dark';
	else delete dataset.ground;
}

/** Follows the device while it is told to. @returns how to end */
export function followDevice(): () => void {
	const query = matchMedia('(prefers-color-scheme: dark)');
	const turn = () => showGround(groundKept());
	query.addEventListener('change', turn);
	return () => query.removeEventListener('change', turn);
}
