/** The order of a table's rows as the person asked for it by its heads: what is not known comes last, either way. */
export type SortValue = string | number | null | undefined;

export class Sorting<Row> {
	/** the column asked for, none at first: the rows as they come */
	by = $state<string>();
	isDown = $state(false);

	constructor(private readonly valueOf: (row: Row, column: string) => SortValue) {}

	/** Up, down, and back to how they came. */
	turn(column: string): void {
		if (this.by !== column) [this.by, this.isDown] = [column, false];
		else if (!this.isDown) this.isDown = true;
		else [this.by, this.isDown] = [undefined, false];
	}
	how(column: string): 'ascending' | 'descending' | 'none' {
		return this.by !== column ? 'none' : this.isDown ? 'descending' : 'ascending';
	}
	of(rows: readonly Row[]): Row[] {
		const { by, isDown, valueOf } = this;
		if (by === undefined) return [...rows];
		const words = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });
		const isKnown = (v: SortValue) => v !== undefined && v !== null && v !== '' && !Number.isNaN(v);
		return [...rows].sort((p, q) => {
			const [a, b] = [valueOf(p, by), valueOf(q, by)];
			if (!isKnown(a) || !isKnown(b)) return Number(isKnown(b)) - Number(isKnown(a));
			const order = typeof a === 'number' && typeof b === 'number' ? a - b : words.compare(String(a), String(b));
			return isDown ? -order : order;
		});
	}
}
