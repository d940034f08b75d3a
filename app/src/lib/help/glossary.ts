/** The glossary of the docs, as the help has it: every row of its tables. */
export interface Entry {
	here: string;
	also: string;
	is: string;
}

const cells = (line: string) =>
	line
		.split('|')
		.slice(1, -1)
		.map((c) => c.trim().replace(/[_`]/g, ''));

/** @param page docs/glossary.md: tables of three columns, a word of ours, what others call it, what it is */
export const entriesOf = (page: string): Entry[] =>
	page.split('\n').flatMap((line) => {
		if (!line.startsWith('|') || /^\|[\s|:-]+$/.test(line)) return [];
		const [here, also, is] = cells(line);
		return here && is && here !== 'here' ? [{ here, also: also ?? '', is }] : [];
	});

/** Every word that is typed must occur; what has them in its title comes first. */
export function find<T>(list: readonly T[], typed: string, title: (x: T) => string, body: (x: T) => string): T[] {
	const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
	if (!words.length) return [...list];
	const has = (text: string) => words.every((w) => text.toLowerCase().includes(w));
	const found = list.filter((x) => has(`${title(x)} ${body(x)}`));
	return [...found.filter((x) => has(title(x))), ...found.filter((x) => !has(title(x)))];
}
