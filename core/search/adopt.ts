import type { Run } from '../plan/schema';

/** One seam's part of another order: its runs in their new sequence and directions, in the places the seam's runs have now. */
export function adoptSeam(now: readonly Run[], then: readonly Run[], joint: string): Run[] {
	const fresh = then.filter((r) => r.joint === joint);
	const old = now.filter((r) => r.joint === joint);
	if (fresh.length === old.length) {
		let i = 0;
		return now.map((r) => (r.joint === joint ? fresh[i++] : r));
	}
	// cut otherwise: all of them where the first was
	const at = now.findIndex((r) => r.joint === joint);
	const rest = now.filter((r) => r.joint !== joint);
	return [...rest.slice(0, at), ...fresh, ...rest.slice(at)];
}
