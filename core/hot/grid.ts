/** The mesh: rectangles in rows along the seam, fine beside it; node = column times rows of nodes + row, so that the band stays narrow. */
import type { HotSeam } from './seam';

/** Cells across one sheet: the first stays for some rows, then each is wider than the one before by this factor, up to the widest. */
export const GROWTH = 1.35;
const WIDEST_MM = 25;
const FINE_ROWS = 3;

/** Distances from the seam of the node rows of one sheet, mm; grips get a row of their own. */
export function rowsOf(widthMm: number, firstMm: number, stops: readonly number[], growth = GROWTH): number[] {
	const rows = [0];
	let h = firstMm;
	while (rows[rows.length - 1] < widthMm - 1e-9) {
		const at = rows[rows.length - 1];
		rows.push(widthMm - at - h < 0.4 * h ? widthMm : at + h);
		if (rows.length > FINE_ROWS) h = Math.min(h * growth, WIDEST_MM);
	}
	for (const stop of stops) {
		if (!(stop > firstMm && stop < widthMm)) continue;
		// the nearest row moves there; the first and the last stay
		let nearest = 1;
		for (let i = 1; i < rows.length - 1; i++) if (Math.abs(rows[i] - stop) < Math.abs(rows[nearest] - stop)) nearest = i;
		rows[nearest] = stop;
	}
	return rows;
}

export interface HotGrid {
	/** mm, stations of the node columns */
	x: Float64Array;
	/** mm, of the node rows; negative for the second sheet, whose seam row comes just before the first sheet's */
	y: Float64Array;
	/** row of the seam of the sheet at y > 0 */
	seamRow: number;
	/** element rows: their lower node row and sheet */
	rows: { row: number; sheet: number }[];
	nodes: number;
	elements: number;
	/** four nodes an element, round it */
	corners: Int32Array;
	/** widths of an element, and its middle, mm */
	hx: Float64Array;
	hy: Float64Array;
	cx: Float64Array;
	cy: Float64Array;
	sheet: Uint8Array;
}

export function gridOf(s: HotSeam): HotGrid {
	const columns = Math.max(4, Math.round(s.lengthMm / s.mesh.alongMm)) + 1;
	const x = Float64Array.from({ length: columns }, (_, i) => (s.lengthMm * i) / (columns - 1));
	const across = s.sheets.map((sheet) =>
		rowsOf(sheet.widthMm, s.mesh.firstMm, [...sheet.grips.map((g) => g.fromSeamMm), ...(s.bar ? [s.bar.halfWidthMm] : [])], s.mesh.growth)
	);
	const second = (across[1] ?? []).map((v) => -v).reverse();
	const y = Float64Array.from([...second, ...across[0]]);
	const seamRow = second.length;
	const rows: HotGrid['rows'] = [];
	for (let j = 0; j < y.length - 1; j++) if (j !== seamRow - 1) rows.push({ row: j, sheet: j < seamRow ? 1 : 0 });
	const ny = y.length;
	const elements = (columns - 1) * rows.length;
	const grid: HotGrid = {
		x,
		y,
		seamRow,
		rows,
		nodes: columns * ny,
		elements,
		corners: new Int32Array(4 * elements),
		hx: new Float64Array(elements),
		hy: new Float64Array(elements),
		cx: new Float64Array(elements),
		cy: new Float64Array(elements),
		sheet: new Uint8Array(elements)
	};
	let e = 0;
	for (let i = 0; i < columns - 1; i++)
		for (const { row: j, sheet } of rows) {
			grid.corners.set([i * ny + j, (i + 1) * ny + j, (i + 1) * ny + j + 1, i * ny + j + 1], 4 * e);
			grid.hx[e] = x[i + 1] - x[i];
			grid.hy[e] = y[j + 1] - y[j];
			grid.cx[e] = (x[i] + x[i + 1]) / 2;
			grid.cy[e] = (y[j] + y[j + 1]) / 2;
			grid.sheet[e] = sheet;
			e++;
		}
	return grid;
}

/** Signs of the corners of an element in its own two directions, in the order of `corners`. */
export const CORNER_X = [-1, 1, 1, -1] as const;
export const CORNER_Y = [-1, -1, 1, 1] as const;
