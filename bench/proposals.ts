/**
 * The study of docs/studies/proposals.md: what is proposed for the example jobs, held against each plan as it stands and against every school
 * of order that applies to it, all by the final shape. `npm run proposals` writes it anew; `npm run proposals -- --only trough.json,tee.json`
 * some rows of it, the rest kept.
 */
import 'reflect-metadata';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { exampleJobs } from '../cli/exampleJobs';
import type { PlanDocument } from '../core/document/schema';
import { priorFactors } from '../core/factors/factors';
import { ForecastCache } from '../core/forecast/analysis';
import { finalValues } from '../core/forecast/finalForecast';
import { forecast } from '../core/forecast/forecast';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { FLAVOURS, missOf } from '../core/propose/flavour';
import { propose } from '../core/propose/propose';
import { orderDoesNotApply, orderPattern } from '../core/schools/orderPattern';
import { ORDER_PATTERNS, ORDER_SCHOOLS } from '../core/schools/orders';
import { DEFAULT_GOALS } from '../core/search/cost';
import { usualLength } from '../core/search/table';

const PAGE = 'docs/studies/proposals.md';
const kernel = kernelFactory(WebAssembly);
/** Intermittent welds are another joint. */
const OTHER_JOINT: readonly string[] = ['chained', 'staggered'];

/** Nothing where the final shape is not found. */
function missByFinal(plan: PlanDocument, cache: ForecastCache): number | undefined {
	const factors = priorFactors();
	const { values, words } = finalValues(forecast(plan, { factors, cache }), factors);
	return words ? undefined : missOf(plan.features, values, DEFAULT_GOALS);
}

function bestSchool(plan: PlanDocument): { name: string; miss: number } | undefined {
	const cache = new ForecastCache(kernel);
	const rows = ORDER_PATTERNS.flatMap((pattern) => {
		const rule = { pattern, runLengthMm: usualLength(plan.runs) };
		if (OTHER_JOINT.includes(pattern) || orderDoesNotApply(plan, rule)) return [];
		const miss = missByFinal({ ...plan, runs: orderPattern(plan, rule) }, cache);
		return miss === undefined ? [] : [{ name: ORDER_SCHOOLS[pattern].name, miss }];
	});
	return rows.sort((p, q) => p.miss - q.miss)[0];
}

const digits = (v: number) => (v < 0.01 ? v.toFixed(4) : v.toFixed(2));
function row(file: string, plan: PlanDocument): string {
	const t0 = performance.now();
	const r = propose(plan, { goals: DEFAULT_GOALS, kernel });
	const s = (performance.now() - t0) / 1000;
	const miss = (c: typeof r.now) =>
		missOf(
			plan.features,
			c.values.map((v) => v.predicted),
			DEFAULT_GOALS
		);
	const school = bestSchool(plan);
	const truest = miss(r.flavours.truest.column);
	const isBest = truest <= miss(r.now) * 1.0001 && (!school || truest <= school.miss * 1.0001);
	const cell = (c: typeof r.now) => `${digits(miss(c))}, ${c.minutes.toFixed(0)} min${c.by === 'quick' ? ' (quick)' : ''}`;
	return `| ${[file, `${s.toFixed(0)} s`, r.cards.length, cell(r.now), school ? `${digits(school.miss)} (${school.name})` : 'none found', ...FLAVOURS.map((f) => cell(r.flavours[f].column)), r.unmet.length, isBest ? 'yes' : '**no**'].join(' | ')} |`;
}

const only = process.argv[process.argv.indexOf('--only') + 1]?.split(',');
const isAsked = (file: string) => !process.argv.includes('--only') || only.includes(file);
const rows = new Map(
	existsSync(PAGE)
		? readFileSync(PAGE, 'utf8')
				.split('\n')
				.flatMap((l): [string, string][] => {
					const file = /^\| (\S+\.json) /.exec(l)?.[1];
					return file ? [[file, l]] : [];
				})
		: []
);
for (const { file, plan } of exampleJobs().filter((e) => isAsked(e.file))) {
	rows.set(file, row(file, plan));
	console.log(rows.get(file));
	writeFileSync(
		PAGE,
		`# What is proposed, held against the plan and the schools\n\nWritten by \`npm run proposals\`. Each cell is by the final shape: the sum over the features of the square of how far each lies off, 1 at its limit and ten times what lies beyond it, squared, besides; and minutes at the bench for a piece. The schools are laid on the plan’s own tacks and hold-downs. “Best” is whether the truest proposal is at least as good as both.\n\n` +
			`| job | took | decisions | as it stands | best school of order | quickest | between | truest | outside still | best |\n| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |\n${[...rows.values()].sort().join('\n')}\n`
	);
}
