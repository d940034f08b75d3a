/** Panels of a part between its bends, and places on them by distances from their edges. */
import type { PanelPlace, Part } from '../document/schema';
import type { Vec2 } from '../geometry/vec';
import { layoutBox } from '../mesh/assemblyMesh';
import { Refusal } from '../refusal/refusal';

/** Two lines this near are one, mm. */
const SAME_MM = 0.05;

export interface PanelBox {
	column: number;
	row: number;
	x0: number;
	x1: number;
	y0: number;
	y1: number;
}

/** Bounds of the columns (or rows): the outline's ends and the bend lines square to that axis. */
function bounds(part: Part, axis: 0 | 1): number[] {
	const box = layoutBox(part.outline);
	const bends = part.bends.filter((b) => Math.abs(b.from[axis] - b.to[axis]) < SAME_MM).map((b) => b.from[axis]);
	const all = [...bends, ...(axis === 0 ? [box.x0, box.x1] : [box.y0, box.y1])].sort((p, q) => p - q);
	return all.filter((v, i) => i === 0 || v - all[i - 1] > SAME_MM);
}

/** The panel a place lies on, by the columns and rows that the bends make of the layout. */
export function panelAt(part: Part, at: Vec2): PanelBox {
	const [xs, ys] = [bounds(part, 0), bounds(part, 1)];
	const within = (list: readonly number[], v: number) => Math.max(0, Math.min(list.length - 2, list.filter((b) => b <= v + 1e-9).length - 1));
	const [column, row] = [within(xs, at[0]), within(ys, at[1])];
	return { column, row, x0: xs[column], x1: xs[column + 1], y0: ys[row], y1: ys[row + 1] };
}

/** What a panel's edges are called: the bend that bounds it, or the edge of the blank. */
export function edgeNames(part: Part, { x0, x1, y0, y1 }: PanelBox): Record<'left' | 'right' | 'lower' | 'upper', string> {
	const at = (axis: 0 | 1, v: number) => {
		const bend = part.bends.find((b) => Math.abs(b.from[axis] - v) < SAME_MM && Math.abs(b.to[axis] - v) < SAME_MM);
		return bend ? `bend “${bend.id}”` : 'edge of the blank';
	};
	return { left: at(0, x0), right: at(0, x1), lower: at(1, y0), upper: at(1, y1) };
}

/** A place by the nearer edge either way; the middle stays the middle. */
export function placeFromEdges(part: Part, at: Vec2, panel = panelAt(part, at)): PanelPlace {
	const { column, row, x0, x1, y0, y1 } = panel;
	const from = <L extends string, H extends string>(v: number, lo: number, hi: number, low: L, high: H): [L | H | 'middle', number] => {
		const middle = (lo + hi) / 2;
		if (Math.abs(v - middle) < SAME_MM) return ['middle', 0];
		return v < middle ? [low, v - lo] : [high, hi - v];
	};
	const [acrossFrom, acrossMm] = from(at[0], x0, x1, 'left', 'right');
	const [upFrom, upMm] = from(at[1], y0, y1, 'lower', 'upper');
	return { column, row, acrossFrom, acrossMm, upFrom, upMm };
}

/** @throws Refusal where the part has no such panel any more */
export function placeInLayout(part: Part, p: PanelPlace): Vec2 {
	const [xs, ys] = [bounds(part, 0), bounds(part, 1)];
	if (p.column > xs.length - 2 || p.row > ys.length - 2) throw new Refusal(`The panel of “${part.name}” it sat on is gone`);
	const at = (from: string, mm: number, lo: number, hi: number) =>
		from === 'middle' ? (lo + hi) / 2 + mm : from === 'left' || from === 'lower' ? lo + mm : hi - mm;
	return [at(p.acrossFrom, p.acrossMm, xs[p.column], xs[p.column + 1]), at(p.upFrom, p.upMm, ys[p.row], ys[p.row + 1])];
}
