/**
 * `npm run bench`: figures of this machine and ratios within one run. Not a test: nothing here passes or fails.
 * Each case names its workload; the pages are timed by scripts/bench.sh.
 */
import 'reflect-metadata';
import os from 'node:os';
import { performance } from 'node:perf_hooks';
import { exampleJobs } from '../cli/exampleJobs';
import { FAMILY_DEFAULTS } from '../core/families/defaults';
import { newPlan } from '../core/families/family';
import { ForecastCache } from '../core/forecast/analysis';
import { forecast } from '../core/forecast/forecast';
import { readJobFile, writeJobFile } from '../core/formats/jobFile';
import { BlockMatrix } from '../core/linalg/blockMatrix';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { graphOf, SparseFactor } from '../core/linalg/supernodal';
import { minimumZone } from '../core/measure/flatness';
import { orderPattern } from '../core/plan/orderPatterns';

const best = (times: number, work: () => void) => {
	let t = Infinity;
	for (let i = 0; i < times; i++) {
		const t0 = performance.now();
		work();
		t = Math.min(t, performance.now() - t0);
	}
	return t;
};
const row = (name: string, ms: number, more = '') => console.log(`${name.padEnd(64)} ${ms.toFixed(0).padStart(7)} ms  ${more}`);

console.log(`Node ${process.version}, ${os.cpus()[0].model}, ${os.cpus().length} cores\n`);

const made = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] });
if (!made.plan) throw new Error('the demo trough cannot be made');
const trough = { ...made.plan, runs: orderPattern(made.plan, { pattern: 'back-step', runLengthMm: 33 }) };
const kernel = kernelFactory(WebAssembly);
const cache = new ForecastCache(kernel);
const before = process.memoryUsage().rss;
let t0 = performance.now();
const first = forecast(trough, { cache, clock: () => performance.now() });
const cold = performance.now() - t0;
const { size } = first.result;
row(
	`Demo trough, first forecast (${size.freedoms} freedoms, ${trough.runs.length} runs)`,
	cold,
	`${size.megabytes.toFixed(0)} MB held, ${((process.memoryUsage().rss - before) / 1e6).toFixed(0)} MB more resident`
);
const edit = best(5, () => forecast({ ...trough, runs: [...trough.runs].reverse() }, { cache }));
row('  an edit of the order', edit, `1 / ${(cold / edit).toFixed(1)} of the first`);
const heat = best(3, () => forecast({ ...trough, settings: [{ ...trough.settings[0], ampsA: 40 + Math.random() }] }, { cache }));
row('  an edit of the settings', heat, `1 / ${(cold / heat).toFixed(1)} of the first`);

const fine = { ...trough, meshSizeMm: size.meshMm * Math.sqrt(size.nodes / 3333) };
t0 = performance.now();
const large = forecast(fine, { clock: () => performance.now() });
row(
	`The same at a finer mesh (${large.result.size.freedoms} freedoms)`,
	performance.now() - t0,
	`${large.result.size.megabytes.toFixed(0)} MB held, ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB resident in all`
);

const n = 58;
const cliques: number[][] = [];
for (let j = 0; j < n; j++) for (let i = 0; i < n; i++) cliques.push([j * n + i, j * n + Math.min(n - 1, i + 1), Math.min(n - 1, j + 1) * n + i]);
const graph = graphOf(
	n * n,
	cliques.map((c) => [...new Set(c)])
);
const matrix = new BlockMatrix(graph);
for (let i = 0; i < matrix.val.length; i++) matrix.val[i] = -0.01;
for (let k = 0; k < n * n; k++) for (let r = 0; r < 6; r++) matrix.addDiagonal(k, r, 5);
let factor = new SparseFactor(graph);
const analyse = best(3, () => (factor = new SparseFactor(graph)));
const numeric = best(3, () => factor.factorise(matrix));
const b = new Float64Array(6 * n * n).fill(1);
row(`Sparse solver, plate of ${6 * n * n} freedoms: ordering and symbolic`, analyse);
row('  factorisation', numeric, `${((factor.symbolic.flops / numeric) * 1e-6).toFixed(2)} Gflop/s`);
row(
	'  one right-hand side',
	best(5, () => factor.solve(b))
);

const text = writeJobFile({ name: 'bench', quantity: 1 }, trough);
row(
	`Importer, job file of ${(text.length / 1000).toFixed(0)} kB`,
	best(5, () => readJobFile(text))
);
const points = Array.from({ length: 200 }, (_, i): [number, number, number] => [(i % 20) * 30, Math.floor(i / 20) * 30, Math.sin(i)]);
row(
	'Minimum-zone flatness of 200 points',
	best(5, () => minimumZone(points))
);
for (const e of exampleJobs())
	row(
		`Example ${e.file}`,
		best(1, () => forecast(e.plan))
	);
