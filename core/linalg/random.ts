/** Reproducible uniform numbers from 0 to 1 (mulberry32): the same seed gives the same sequence on every machine. */
export function uniformFrom(seed: number): () => number {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) >>> 0;
		let t = Math.imul(a ^ (a >>> 15), 1 | a);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

/** Reproducible normal numbers (Box & Muller 1958). */
export function normalsFrom(seed: number): () => number {
	const uniform = uniformFrom(seed);
	return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}
