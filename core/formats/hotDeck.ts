/**
 * The moving-arc model's own mesh as an input deck for CalculiX (and any solver that reads its keywords): plane stress, the
 * temperatures of every step given node by node, the metal by its tables. The rectangles are the model's own, with a node in the
 * middle of each side: that solver's four-node rectangles lock where the temperature falls steeply. One sheet before its mirror, joined from the start: what is
 * open, melts or forgets has no word there. Units N, mm, MPa, °C.
 */
import type { HotGrid } from '../hot/grid';
import type { ArcMetal } from '../hot/metal';
import type { HotSeam } from '../hot/seam';
import { Refusal } from '../refusal/refusal';

/** °C of the tables */
const AT = Array.from({ length: 27 }, (_, i) => 20 + 60 * i);
/** plastic strain that the hardening is written up to */
const WRITTEN_TO = 1;

/** @param temperatures °C by node, by step; every step is one increment of the solver's */
export function writeHotDeck(seam: HotSeam, grid: HotGrid, temperatures: readonly Float32Array[]): string {
	const [sheet] = seam.sheets;
	if (seam.sheets.length !== 1 || !seam.isOnePiece || sheet.metal.forgetsC < Infinity)
		throw new Refusal(
			'Only one sheet before its mirror image, with no edges that could part, of a metal that forgets nothing, can be written for another solver.'
		);
	const { metal } = sheet;
	const ny = grid.y.length;
	const middles = middlesOf(grid);
	const out: string[] = ['*NODE, NSET=ALL'];
	grid.x.forEach((x, i) => grid.y.forEach((y, j) => out.push(`${i * ny + j + 1}, ${x.toPrecision(9)}, ${y.toPrecision(9)}, 0.`)));
	for (const [id, [a, b]] of middles.list) out.push(`${id}, ${place(grid, a, b, 'x')}, ${place(grid, a, b, 'y')}, 0.`);
	out.push('*ELEMENT, TYPE=CPS8, ELSET=SHEET');
	for (let e = 0; e < grid.elements; e++) {
		const n = [0, 1, 2, 3].map((k) => grid.corners[4 * e + k]);
		out.push([e + 1, ...n.map((k) => k + 1), ...n.map((k, i) => middles.of(k, n[(i + 1) % 4]))].join(', '));
	}
	out.push(...metalOf(metal), '*SOLID SECTION, ELSET=SHEET, MATERIAL=METAL', String(sheet.thicknessMm));
	out.push('*INITIAL CONDITIONS, TYPE=TEMPERATURE', `ALL, ${seam.startC}`, '*BOUNDARY');
	for (let i = 0; i < grid.x.length; i++) out.push(`${i * ny + 1}, 2, 2`);
	for (let i = 0; i + 1 < grid.x.length; i++) out.push(`${middles.of(i * ny, (i + 1) * ny)}, 2, 2`);
	out.push(`${((grid.x.length - 1) >> 1) * ny + ny}, 1, 1`);
	temperatures.forEach((field, k) => {
		out.push('*STEP, INC=100', '*STATIC', '1., 1.', '*TEMPERATURE', ...Array.from(field, (c, n) => `${n + 1}, ${c.toFixed(3)}`));
		for (const [id, [a, b]] of middles.list) out.push(`${id}, ${((field[a] + field[b]) / 2).toFixed(3)}`);
		if (k === temperatures.length - 1) out.push('*NODE PRINT, NSET=ALL', 'U', '*EL PRINT, ELSET=SHEET', 'S, E');
		out.push('*END STEP');
	});
	return out.join('\n') + '\n';
}

function metalOf(metal: ArcMetal): string[] {
	return [
		'*MATERIAL, NAME=METAL',
		'*ELASTIC',
		...AT.map((c) => `${metal.e.at(c).toFixed(2)}, ${metal.poisson}, ${c}`),
		'*EXPANSION, ZERO=20',
		...AT.map((c) => {
			const a = Math.max(c, 30);
			return `${(metal.growth.at(a) / (a - 20)).toExponential(7)}, ${c}`;
		}),
		'*PLASTIC',
		...AT.flatMap((c) => {
			const proof = metal.proof.at(c);
			return [`${proof.toFixed(4)}, 0., ${c}`, `${(proof + metal.hardening.at(c) * WRITTEN_TO + 1e-3).toFixed(4)}, ${WRITTEN_TO}., ${c}`];
		})
	];
}

/** Nodes in the middle of the sides, numbered after the others, each made once. */
function middlesOf(grid: HotGrid) {
	const ids = new Map<string, number>();
	const list: [id: number, ends: readonly [number, number]][] = [];
	const of = (a: number, b: number): number => {
		const key = a < b ? `${a} ${b}` : `${b} ${a}`;
		let id = ids.get(key);
		if (id === undefined) {
			id = grid.nodes + list.length + 1;
			ids.set(key, id);
			list.push([id, [a, b]]);
		}
		return id;
	};
	for (let e = 0; e < grid.elements; e++) for (let k = 0; k < 4; k++) of(grid.corners[4 * e + k], grid.corners[4 * e + ((k + 1) % 4)]);
	return { of, list };
}

function place(grid: HotGrid, a: number, b: number, axis: 'x' | 'y'): string {
	const ny = grid.y.length;
	const at = (n: number) => (axis === 'x' ? grid.x[Math.floor(n / ny)] : grid.y[n % ny]);
	return ((at(a) + at(b)) / 2).toPrecision(9);
}
