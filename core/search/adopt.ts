import type { Run } from '../document/schema';

/** One seam's part of another order: its runs in their new sequence and directions, in the places the seam's runs have now. */
export function adoptSeam(now: readonly Run[], then: readonly Run[], joint: string): Run[] {
	// runs of another cut may bear ids that other seams' runs have here
	const taken = new Set(now.filter((r) => r.joint !== joint).map((r) => r.id));
	const fresh = then
		.filter((r) => r.joint === joint)
		.map((r) => {
			let id = r.id;
			for (let n = 2; taken.has(id); n++) id = `${r.id}-${n}`;
			taken.add(id);
			return id === r.id ? r : { ...r, id };
		});
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
