/**
 * `npm run hot-pair`: the moving-arc model's short pair by CalculiX, with the same rectangles and temperatures; minutes, so its figures
 * are kept in tests/verification/hotPair.json and compared there.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { writeHotDeck } from '$core/formats/hotDeck';
import { gridOf } from '$core/hot/grid';
import { marchSeam } from '$core/hot/march';
import { meanOver } from '$core/hot/results';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { readPrinted } from './coupons/reduce';
import { HOT_PAIRS, MIDDLE } from './hotPairs';

const CCX = ['/usr/bin/ccx', '/usr/local/bin/ccx'].find(existsSync);
if (!CCX) {
	console.error('ccx is not installed: apt-get install calculix-ccx');
	process.exit(1);
}
const kept: Record<string, { forceKn: number; closingMm: number }> = {};
for (const [id, pair] of Object.entries(HOT_PAIRS)) {
	const m = marchSeam(pair, { kernel: kernelFactory(WebAssembly), fieldEvery: 1 });
	const grid = gridOf(pair);
	const folder = mkdtempSync(path.join(tmpdir(), 'hot-'));
	writeFileSync(
		path.join(folder, 'deck.inp'),
		writeHotDeck(
			pair,
			grid,
			m.fields.map((f) => f.temperature)
		)
	);
	execFileSync(CCX, ['-i', 'deck'], { cwd: folder, env: { ...process.env, OMP_NUM_THREADS: '1' }, stdio: 'pipe', maxBuffer: 1 << 28 });
	const printed = readPrinted(readFileSync(path.join(folder, 'deck.dat'), 'utf8'));
	rmSync(folder, { recursive: true });
	const [sheet] = pair.sheets;
	const rows = grid.rows.length;
	let [force, cells] = [0, 0];
	for (let i = 0; i + 1 < grid.x.length; i++) {
		if (grid.x[i] < MIDDLE[0] || grid.x[i + 1] > MIDDLE[1]) continue;
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
	kept[id] = { forceKn: Number((force / cells / 1000).toPrecision(5)), closingMm: Number(meanOver(grid.x, outer, ...MIDDLE).toPrecision(5)) };
	console.log(id, JSON.stringify(kept[id]));
}
writeFileSync('tests/verification/hotPair.json', `${JSON.stringify(kept, null, '\t')}\n`);
