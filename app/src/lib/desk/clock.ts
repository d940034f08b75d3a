/**
 * The shop's clock on this device: the server's, carried on by a clock that nobody sets. A tablet whose own clock is wrong, or is put right
 * in the middle of a wait, neither shortens it nor lengthens it, and two tablets agree on when an arc went out.
 */
const KEY = 'sarta-clock';
/** Answers name the second; what differs less than this is on time, ms. */
const SAME_MS = 2000;

// a pair taken together: from here on only the second counts
const dateAtStart = Date.now();
const runAtStart = performance.now();
const steady = () => dateAtStart + (performance.now() - runAtStart);

/** the server's clock less this one's, ms */
let ahead: number | undefined;

function kept(): number {
	const n = typeof localStorage === 'undefined' ? NaN : Number(localStorage.getItem(KEY) ?? NaN);
	return Number.isFinite(n) ? n : 0;
}

/** @param date header of an answer, as HTTP writes it */
export function heardDate(date: string | null): void {
	const said = Date.parse(date ?? '');
	if (Number.isNaN(said) || typeof localStorage === 'undefined') return;
	// in the middle of the second it names
	const now = said + 500 - steady();
	if (ahead !== undefined && Math.abs(now - ahead) < SAME_MS) return;
	ahead = Math.abs(now) < SAME_MS ? 0 : now;
	localStorage.setItem(KEY, String(ahead));
}

/** ms since 1970; by this device's own clock until a server was heard. */
export const shopNow = (): number => steady() + (ahead ??= kept());
