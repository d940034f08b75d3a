import type { Joint } from '../document/schema';

/** A short name for each welded seam, the same on screen, sheets and steel: A to Z, then AA, AB. */
export function seamLetters(joints: readonly Joint[]): Map<string, string> {
	const out = new Map<string, string>();
	joints
		.filter((j) => !j.stock)
		.forEach((j, i) => {
			const one = String.fromCharCode(65 + (i % 26));
			out.set(j.id, i < 26 ? one : String.fromCharCode(64 + Math.floor(i / 26)) + one);
		});
	return out;
}
