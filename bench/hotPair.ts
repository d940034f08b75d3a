/**
 * `npm run hot-pair`: the moving-arc model's pairs by CalculiX, with the same rectangles and temperatures; minutes, so their figures
 * are kept in tests/verification/hotPair.json and compared there. A shorter pair is worked out at every test.
 */
import { writeFileSync } from 'node:fs';
import { marchSeam } from '$core/hot/march';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { byCalculix, CCX, type PairResult } from './hotPairByCalculix';
import { HOT_PAIRS } from './hotPairs';

if (!CCX) {
	console.error('ccx is not installed: apt-get install calculix-ccx');
	process.exit(1);
}
const kept: Record<string, PairResult> = {};
for (const [id, pair] of Object.entries(HOT_PAIRS)) {
	kept[id] = byCalculix(marchSeam(pair, { kernel: kernelFactory(WebAssembly), fieldEvery: 1 }));
	console.log(id, JSON.stringify(kept[id]));
}
writeFileSync('tests/verification/hotPair.json', `${JSON.stringify(kept, null, '\t')}\n`);
