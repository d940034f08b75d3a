/**
 * `npm run bench`: figures of this machine and ratios within one run. Not a test: nothing here passes or fails.
 * Each case names its workload; the pages are timed by scripts/bench.sh.
 */
import 'reflect-metadata';
import os from 'node:os';
import { performance } from 'node:perf_hooks';
import { exampleJobs } from '../cli/exampleJobs';
import occt from 'occt-import-js';
import { planFromParts } from '../core/compose/fromFlats';
import { partsFromSurfaces } from '../core/compose/fromSurfaces';
import { platesStep } from '../core/compose/stepFixtures';
import { blankOf } from '../core/families/blank';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '../core/families';
import { newPlan } from '../core/families/newPlan';
import { ForecastCache, scalesOf } from '../core/forecast/analysis';
import { finalForecast } from '../core/forecast/finalForecast';
import { fullForecast } from '../core/forecast/fullForecast';
import { sectionHistory } from '../core/heat/section';
import { priorFactors } from '../core/factors/factors';
import { findMaterial } from '../core/materials/grades';
import { marchSeam } from '../core/hot/march';
import { arcMetal } from '../core/hot/metal';
import { ORDINARY_ARC, type HotSeam } from '../core/hot/seam';
import { hotMetal } from '../core/materials/hot';
import { stripForce } from '../core/response/strips';
import { FinalShape } from '../core/staging/finalShape';
import { benchOrders } from './orders';
import { benchSolvers } from './solvers';
import { forecast } from '../core/forecast/forecast';
import { readDxf } from '../core/formats/dxfIn';
import { writeDxf } from '../core/formats/dxfOut';
import { assemblyMesh } from '../core/mesh/assemblyMesh';
import { readJobFile, writeJobFile } from '../core/formats/jobFile';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { minimumZone } from '../core/measure/flatness';
import { learnShop } from '../core/learn/shop';
import { orderPattern } from '../core/schools/orderPattern';
import { madeShop } from './madeShop';

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

// first, in a process that has done nothing yet, as a page's worker has when it opens a piece
benchOrders(row);
console.log('');

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

const final = (() => {
	const t = performance.now();
	const quick = forecast(made.plan, { cache: new ForecastCache(kernel) });
	const t1 = performance.now();
	const r = finalForecast(quick, { clock: () => performance.now() });
	const densities = made.plan.parts.map((p) => findMaterial(p.material).density);
	const model = new FinalShape(made.plan, quick.analysis.mesh, quick.analysis.sheets, densities, quick.analysis.condensed, quick.analysis.staged);
	const pull = model.pull(quick.analysis.staged.marks[quick.analysis.staged.marks.length - 1], scalesOf(priorFactors().mean));
	const t2 = performance.now();
	model.solve(pull);
	return { quick: t1 - t, whole: t2 - t1, alone: performance.now() - t2, rounds: r.result.finalShape!.iterations };
})();
row(`Final shape of the demo trough, shape alone (${final.rounds} rounds)`, final.alone);
row('  with margins, the other shape, bands and influence', final.whole);
t0 = performance.now();
first.heat();
row('  heat through the weld-out', performance.now() - t0, `${trough.runs.length} runs`);
t0 = performance.now();
let toldAt = t0;
let longestGap = 0;
const full = fullForecast(first, {
	clock: () => performance.now(),
	progress: () => {
		longestGap = Math.max(longestGap, performance.now() - toldAt);
		toldAt = performance.now();
	}
});
row(
	`Full forecast of the demo trough (${trough.runs.length} runs, ${full.result.full!.solutions} shapes)`,
	performance.now() - t0,
	`longest silence ${longestGap.toFixed(0)} ms`
);
const sheets = [0, 1].map(() => ({ width: 300, thickness: 1.5, metal: hotMetal(findMaterial('1.4301')), share: 0.5 })) as never;
row(
	'Strip solver, one response (2 x 300 mm)',
	best(5, () => stripForce({ history: sectionHistory({ sheets, air: 15e-6, ambientC: 20, netHeat: 160, speed: 2.5 }), sheets, heldStraight: true }))
);
benchSolvers(row, kernel);

console.log('');
for (const kind of MADE_FAMILIES) {
	const plan = newPlan(kind, FAMILY_DEFAULTS[kind]).plan!;
	const make = best(3, () => {
		const p = newPlan(kind, FAMILY_DEFAULTS[kind]).plan!;
		p.parts.forEach((x) => blankOf(x, p));
		assemblyMesh(p);
	});
	const t = performance.now();
	forecast(plan, { cache: new ForecastCache(kernel) });
	row(`Family ${kind}: blanks, seams, mesh (${plan.joints.length} joints)`, make, `first quick forecast ${(performance.now() - t).toFixed(0)} ms`);
}
const bigDrawing = writeDxf(
	Array.from({ length: 1200 }, (_, i) => {
		const at = (x: number, y: number): [number, number] => [x + (i % 40) * 130, y + Math.floor(i / 40) * 90];
		const holes = [0, 1].map((k) =>
			Array.from({ length: 16 }, (_, q) => at(30 + 40 * k + 8 * Math.cos((q * Math.PI) / 8), 35 + 8 * Math.sin((q * Math.PI) / 8)))
		);
		return { outline: [at(0, 0), at(110, 0), at(110, 70), at(0, 70)], holes, bends: [{ from: at(20, 0), to: at(20, 70) }] };
	})
);
row(
	`DXF of ${(bigDrawing.length / 1e6).toFixed(1)} MB, 1200 blanks with holes`,
	best(1, () => readDxf(bigDrawing))
);
{
	const step = platesStep(100);
	const t = performance.now();
	const reader = await occt();
	const r = reader.ReadStepFile(new TextEncoder().encode(step), { linearUnit: 'millimeter' });
	const t1 = performance.now();
	const parts = partsFromSurfaces(
		r.meshes.map((m) => ({ xyz: m.attributes.position.array, tri: m.index.array, name: m.name })),
		{ material: '1.4301', thicknessMm: 1.5 }
	).parts;
	const plan = planFromParts(parts, { toleranceMm: 0.5 });
	row(
		`STEP of 100 plates (${(step.length / 1e6).toFixed(1)} MB): read, sheets, seams`,
		performance.now() - t,
		`Open CASCADE ${(t1 - t).toFixed(0)} ms; ${parts.length} parts, ${plan.joints.length} seams`
	);
}
console.log('');
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
const shop = madeShop(200);
row(
	'Learning a shop of 200 pieces, 2,000 readings, 32 contexts',
	best(2, () => learnShop(shop, []))
);
for (const e of exampleJobs())
	row(
		`Example ${e.file}`,
		best(1, () => forecast(e.plan))
	);

// one seam under a moving arc: 1.4301, 2 x 150 x 300 x 1.5 mm, 160 J/mm at 2.5 mm/s, tacked at both ends
const seam: HotSeam = {
	lengthMm: 300,
	sheets: [{ widthMm: 150, thicknessMm: 1.5, metal: arcMetal(findMaterial('1.4301')), grips: [] }],
	heat: 160,
	speed: 2.5,
	runs: [{ fromMm: 0, toMm: 300, waitS: 0 }],
	tacks: [2.5, 297.5].map((atMm) => ({ atMm, lengthMm: 6 })),
	welded: [],
	gapMm: 0,
	startC: 20,
	ambientC: 20,
	air: 15e-6,
	arc: ORDINARY_ARC,
	mesh: { alongMm: 5, stepS: 1, firstMm: 1.5 }
};
const withKernel = best(2, () => void marchSeam(seam, { kernel }));
const unaided = best(1, () => void marchSeam(seam));
row('hot: 300 mm of seam, 1,952 unknowns, 153 steps', withKernel, `${(unaided / withKernel).toFixed(1)} times as long without the compiled kernel`);
