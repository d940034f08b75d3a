/** Tables over °C and how they are read. */
export type Table = readonly (readonly [c: number, value: number])[];

/** From 20 °C, then from `from` on every hundred degrees. */
export const hundreds = (from: number, ...v: number[]): Table => [[20, 1], ...v.map((x, i): [number, number] => [from + 100 * i, x])];

/** At the stations of EN 1999-1-2 tables 1a and 2. */
export const aluminiumTable = (...v: number[]): Table => [[20, 1], ...[100, 150, 200, 250, 300, 350, 550].map((c, i): [number, number] => [c, v[i]])];

/** Piecewise linear, held beyond both ends. */
export function interpolate(table: Table, c: number): number {
	if (c <= table[0][0]) return table[0][1];
	for (let i = 1; i < table.length; i++) {
		const [x1, y1] = table[i];
		if (c <= x1) {
			const [x0, y0] = table[i - 1];
			return y0 + ((y1 - y0) * (c - x0)) / (x1 - x0);
		}
	}
	return table[table.length - 1][1];
}
