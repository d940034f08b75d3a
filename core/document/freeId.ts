/** @returns the first of `word-1`, `word-2` and so on that is not taken */
export function freeId(taken: readonly string[], word: string): string {
	const known = new Set(taken);
	let n = 1;
	while (known.has(`${word}-${n}`)) n++;
	return `${word}-${n}`;
}
