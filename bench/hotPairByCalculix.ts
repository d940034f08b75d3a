/** A short pair by CalculiX, with the moving-arc model's own rectangles and temperatures: its pull and its closing over the middle. */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { writeHotDeck } from '$core/formats/hotDeck';
import type { HotMarch } from '$core/hot/march';
import { meanOver } from '$core/hot/results';
import { readPrinted } from './coupons/reduce';
import { middleOf } from './hotPairs';

export const CCX = ['/usr/bin/ccx', '/usr/local/bin/ccx'].find(existsSync);

export interface PairResult {
	forceKn: number;
	closingMm: number;
}

/** @param march of the pair, with the field of every step kept @throws Error where CalculiX is not installed, or gives up */
export function byCalculix({ seam, grid, fields }: HotMarch): PairResult {
	if (!CCX) throw new Error('ccx is not installed: apt-get install calculix-ccx');
	const folder = mkdtempSync(path.join(tmpdir(), 'hot-'));
	const deck = writeHotDeck(
		seam,
		grid,
		fields.map((f) => f.temperature)
	);
	writeFileSync(path.join(folder, 'deck.inp'), deck);
	try {
		execFileSync(CCX, ['-i', 'deck'], { cwd: folder, env: { ...process.env, OMP_NUM_THREADS: '1' }, stdio: 'pipe', maxBuffer: 1 << 28 });
		return read({ seam, grid }, readPrinted(readFileSync(path.join(folder, 'deck.dat'), 'utf8')));
	} finally {
		rmSync(folder, { recursive: true });
	}
}

function read({ seam, grid }: Pick<HotMarch, 'seam' | 'grid'>, printed: ReturnType<typeof readPrinted>): PairResult {
	const [sheet] = seam.sheets;
	const middle = middleOf(seam);
	const rows = grid.rows.length;
	let [force, cells] = [0, 0];
	for (let i = 0; i + 1 < grid.x.length; i++) {
		if (grid.x[i] < middle[0] || grid.x[i + 1] > middle[1]) continue;
		cells++;
		for (let r = 0; r < rows; r++) {
			const e = i * rows + r;
			const [stress, strain] = [printed.stress.get(e + 1)!, printed.strain.get(e + 1)!];
			const plastic =
				stress.reduce((sum, s, k) => sum + strain[k][0] - (s[0] - sheet.metal.poisson * (s[1] + s[2])) / sheet.metal.e20, 0) / stress.length;
			force -= 2 * sheet.metal.e20 * sheet.thicknessMm * grid.hy[e] * plastic;
		}
	}
	const outer = Float64Array.from(grid.x, (_, i) => -2 * printed.displacement.get((i + 1) * grid.y.length)![1]);
	return { forceKn: Number((force / cells / 1000).toPrecision(5)), closingMm: Number(meanOver(grid.x, outer, ...middle).toPrecision(5)) };
}
