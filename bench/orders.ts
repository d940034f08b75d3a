/** Figures of the search on a tank of five plates with a baffle: about twelve seams and sixty runs. */
import { performance } from 'node:perf_hooks';
import { FAMILY_DEFAULTS } from '../core/families';
import { newPlan } from '../core/families/newPlan';
import { analyse, ForecastCache, scalesOf } from '../core/forecast/analysis';
import { forecast } from '../core/forecast/forecast';
import { pathLength } from '../core/geometry/polyline';
import { priorFactors } from '../core/factors/factors';
import { kernelFactory } from '../core/linalg/kernel/kernel';
import { orderPattern } from '../core/schools/orderPattern';
import type { PlanDocument } from '../core/document/schema';
import { DEFAULT_GOALS } from '../core/search/cost';
import { OrderSearch, Stopped } from '../core/search/search';

const RUNS = 60;
const SEARCH_MS = 60_000;

/** One edit of each kind: a run laid at another time, settings a little hotter, a tack taken out. */
function editsOf(plan: PlanDocument, i: number): PlanDocument[] {
	const runs = [...plan.runs];
	runs.splice(30, 0, ...runs.splice(3 * i + 1, 1));
	const [first, ...others] = plan.settings;
	return [
		{ ...plan, runs },
		{ ...plan, settings: [{ ...first, ampsA: first.ampsA + 0.7 * (i + 1) }, ...others] },
		{ ...plan, tacks: plan.tacks.filter((_, k) => k !== 5 * i + 20) }
	];
}

export function benchOrders(row: (name: string, ms: number, more?: string) => void) {
	const made = newPlan('open-trough', {
		...FAMILY_DEFAULTS['open-trough'],
		body: 'five-plates',
		baffles: 1,
		lengthMm: 420,
		widthMm: 260,
		depthMm: 160
	});
	if (!made.plan) throw new Error('the tank for the search cannot be made');
	const total = made.plan.joints.filter((j) => !j.stock).reduce((s, j) => s + pathLength(j.a.path), 0);
	const plan = { ...made.plan, runs: orderPattern(made.plan, { pattern: 'skip-round', runLengthMm: total / RUNS }) };
	const cache = new ForecastCache(kernelFactory(WebAssembly));
	const scales = scalesOf(priorFactors().mean);
	const time = <T>(work: () => T): [T, number] => {
		const t = performance.now();
		const out = work();
		return [out, performance.now() - t];
	};
	const each = (times: number, work: () => void) => time(() => Array.from({ length: times }, work))[1] / times;

	const [a, first] = time(() => analyse(plan, cache));
	row(`Tank, ${plan.joints.length} seams, ${plan.runs.length} runs, ${plan.tacks.length} tacks: condensation and staging, once`, first);
	row('  the quick forecast a page opens with', time(() => forecast(plan, { cache }))[1]);
	const edits = Array.from({ length: 3 }, (_, i) => editsOf(plan, i)).flat();
	const took = edits.map((edited) => time(() => forecast(edited, { cache }))[1]);
	row(
		'  quick forecast after an edit of order, settings or tacks, mean',
		took.reduce((s, ms) => s + ms, 0) / took.length,
		`the first ${took[0].toFixed(0)} ms, the slowest of ${took.length} ${Math.max(...took).toFixed(0)} ms`
	);
	const [warm, heated] = time(() => analyse(plan, cache, { warm: true }));
	row('  the same with the heat of earlier runs in the forces', heated);
	const [search, model] = time(() => new OrderSearch(a, scales, DEFAULT_GOALS, warm));
	row('  order model and heat of each run, once', model, `${search.model.openRows} open rows, ${search.model.observed} observed`);
	const { given } = search;
	const columns = search.model.columns(given);
	const whole = each(10, () => void search.model.columns(given));
	row('  an order from the beginning, exact mechanics', whole, `${(1000 / whole).toFixed(0)} a second`);
	const k = Math.floor(given.length / 2);
	const walk = search.model.walk();
	for (let i = 0; i < k; i++) walk.append(given[i]);
	const swap = each(200, () => {
		const mark = walk.mark;
		const next = [...columns];
		next[k] = walk.append(given[k + 1]);
		next[k + 1] = walk.append(given[k]);
		walk.back(mark);
		search.model.outputs(next);
	});
	row('  a swap of neighbours, exact mechanics', swap, `${(1000 / swap).toFixed(0)} a second`);
	row(
		'  weighing an order (heat, waits, features)',
		each(50, () => void search.weigh(given, columns))
	);
	const seen: [number, number][] = [];
	const began = performance.now();
	const found = search.run([], (p) => {
		seen.push([performance.now() - began, p.best.cost]);
		if (performance.now() - began > SEARCH_MS) throw new Stopped();
	});
	const [start, end] = [seen[0][1], found.weighed.cost];
	const most = seen.find(([, cost]) => start - cost >= 0.9 * (start - end));
	row(
		`  the search, stopped after ${SEARCH_MS / 1000} s at the latest`,
		performance.now() - began,
		`${search.evaluated} orders weighed, cost ${start.toFixed(3)} to ${end.toFixed(3)}, 90 % of the gain after ${((most?.[0] ?? 0) / 1000).toFixed(1)} s`
	);
}
