/**
 * `npm run hot-study`: one seam of three pieces watched under other tacks, other runs and other heat; writes docs/studies/hot.md.
 * Some minutes on this machine.
 */
import 'reflect-metadata';
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { FAMILY_DEFAULTS, type MadeFamily } from '$core/families';
import { newPlan } from '$core/families/newPlan';
import { ForecastCache } from '$core/forecast/analysis';
import { finalForecast } from '$core/forecast/finalForecast';
import { forecast } from '$core/forecast/forecast';
import { isClosed, pathLength } from '$core/geometry/polyline';
import { HotMemory } from '$core/hot/factors';
import { hotForecast } from '$core/hot/hotForecast';
import { evenTacks, hotSeamOf, TACK_MM, type HotChange } from '$core/hot/ofPlan';
import { watchSeam, type Watched } from '$core/hot/watch';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { isRefusal } from '$core/refusal/refusal';
import { orderPattern } from '$core/schools/orderPattern';
import type { PlanDocument } from '$core/document/schema';

const kernel = kernelFactory(WebAssembly);
const PIECES: [MadeFamily, string][] = [
	['open-trough', 'The demo trough'],
	['butt-panel', 'A panel of two sheets'],
	['mitred-frame', 'A mitred frame']
];
const WAYS: [string, (L: number) => HotChange][] = [
	['as the family plans it', () => ({})],
	['one run, tacked at its start', (L) => ({ runs: 'one', tacks: [evenTacks(L, 0)[0]] })],
	['one run, tacked at both ends', (L) => ({ runs: 'one', tacks: evenTacks(L, 0) })],
	['one run, tacked every 75 mm', (L) => ({ runs: 'one', tacks: evenTacks(L, 75) })],
	['one run, tacked every 20 mm', (L) => ({ runs: 'one', tacks: evenTacks(L, 20) })],
	['back-stepped in three, tacked at both ends', (L) => ({ runs: 3, tacks: evenTacks(L, 0) })],
	['back-stepped in three, tacked every 75 mm', (L) => ({ runs: 3, tacks: evenTacks(L, 75) })],
	['one run, tacked at both ends, 1.25 times the heat', (L) => ({ runs: 'one', tacks: evenTacks(L, 0), heat: 1.25 })]
];

/** The longest seam that can be laid into one plane. */
function seamOf(plan: PlanDocument): { id: string; name: string; lengthMm: number } {
	const found = plan.joints.flatMap((j) => {
		try {
			return [{ id: j.id, name: j.name, lengthMm: hotSeamOf(plan, j.id).seam.lengthMm }];
		} catch (e) {
			if (!isRefusal(e)) throw e;
			return [];
		}
	});
	return found.reduce((a, b) => (b.lengthMm > a.lengthMm ? b : a));
}

const row = (name: string, w: Watched) => {
	const hardest = w.tacks.reduce((a, b) => Math.max(a, b.tensionMpa), 0);
	const stretch = 100 * w.tacks.reduce((a, b) => Math.max(a, b.strain), 0);
	const range = w.gapRange[0] === w.gapRange[1] ? '' : ` (${w.gapRange.map((v) => v.toFixed(2)).join(' to ')})`;
	return `| ${name} | ${w.gapMm.toFixed(2)}${range} | ${hardest.toFixed(0)}, ${stretch.toFixed(1)} | ${w.forceKn.toFixed(1)} | ${w.closingMm.map((v) => v.toFixed(2)).join(', ')} | ${w.isBalanced ? '' : 'some steps not in balance'} |`;
};

/** The same plan with every seam tacked otherwise, or run otherwise. */
const PLANS: [string, (plan: PlanDocument) => PlanDocument][] = [
	['as the family plans it', (p) => p],
	['both ends only', (p) => tackedBy(p, 0)],
	['every 20 mm', (p) => tackedBy(p, 20)],
	['every 20 mm, back-stepped in 50 mm', (p) => ({ ...tackedBy(p, 20), runs: orderPattern(p, { pattern: 'back-step', runLengthMm: 50 }) })],
	['every 20 mm, straight through', (p) => ({ ...tackedBy(p, 20), runs: orderPattern(p, { pattern: 'straight-through', runLengthMm: 50 }) })]
];

function tackedBy(plan: PlanDocument, spacing: number): PlanDocument {
	const tacks = plan.joints.flatMap((j) => {
		const own = plan.tacks.filter((t) => t.joint === j.id);
		if (!own.length || isClosed(j.a.path)) return own;
		return evenTacks(pathLength(j.a.path), spacing).map((stationMm, i) => ({ ...own[0], id: `${j.id}-${i}`, stationMm, lengthMm: TACK_MM }));
	});
	return { ...plan, tacks: tacks.sort((a, b) => a.stage - b.stage) };
}

/** Each feature by the final shape and by the hot depth, plan by plan. */
function forecastTable(plan: PlanDocument): string[] {
	const memory = new HotMemory(kernel);
	const columns = PLANS.map(([name, change]) => {
		const quick = forecast(change(plan), { cache: new ForecastCache(kernel) });
		const plain = finalForecast(quick);
		const hot = hotForecast(quick, { kernel, memory, plain: plain.result }).result;
		console.error('  forecast', name);
		return {
			name,
			cells: hot.features.map((f) =>
				f.notFound ? 'no shape' : `${f.finalShape!.toFixed(2)}, ${f.predicted.toFixed(2)} (${f.low.toFixed(2)} to ${f.high.toFixed(2)})`
			)
		};
	});
	return [
		`| feature | ${columns.map((c) => c.name).join(' | ')} |`,
		`| --- |${columns.map(() => ' --- |').join('')}`,
		...plan.features.map((f, k) => `| ${f.name} | ${columns.map((c) => c.cells[k]).join(' | ')} |`)
	];
}

const out = [
	'# One seam under the arc, other tacks, other runs',
	'',
	'Written by `npm run hot-study` from [the moving-arc model](../theory/hot.md): the longest seam of each piece that can be laid into one plane, alone and flat, its edges free. Gap ahead of the arc in mm (in brackets the range of the hot metal, where the gap is too wide), the hardest held tack in MPa and the most stretched in %, pull over the middle in kN, closing at start, middle and end in mm.'
];
for (const [family, title] of PIECES) {
	const { plan } = newPlan(family, { ...FAMILY_DEFAULTS[family] });
	if (!plan) throw new Error(`${family} cannot be made`);
	const seam = seamOf(plan);
	const rows: string[] = [];
	const seen = new Map<string, Watched>();
	for (const [name, change] of WAYS) {
		const w = watchSeam(plan, seam.id, change(seam.lengthMm), { kernel, isFilmed: false });
		seen.set(name, w);
		rows.push(row(name, w));
		console.error(title, name, w.gapMm.toFixed(3), w.forceKn.toFixed(1));
	}
	const [straight, stepped] = ['one run, tacked every 75 mm', 'back-stepped in three, tacked every 75 mm'].map((n) => seen.get(n)!);
	const turn = (w: Watched) => w.closingMm[2] - w.closingMm[0];
	out.push(
		'',
		`## ${title}`,
		'',
		`Seam “${seam.name}”, ${seam.lengthMm.toFixed(0)} mm; a gap of more than ${straight.gapLimitMm.toFixed(2)} mm is too much.`,
		'',
		'| way | gap ahead | hardest held, most stretched | pull | closing | |',
		'| --- | --- | --- | --- | --- | --- |',
		...rows,
		'',
		`Tacked every 75 mm, back-stepping changes the pull to ${(stepped.forceKn / straight.forceKn).toFixed(2)} of one run's, the closing in the middle to ${(stepped.closingMm[1] / straight.closingMm[1]).toFixed(2)}, and the difference between the two ends from ${turn(straight).toFixed(2)} to ${turn(stepped).toFixed(2)} mm.`,
		'',
		'In the forecast: the final shape, then the hot depth with its band, for the same piece tacked and run otherwise.',
		'',
		...forecastTable(plan)
	);
}
writeFileSync('docs/studies/hot.md', await format(out.join('\n'), { parser: 'markdown' }));
