/** What the page says of an order, checked: every number in a reason is staged again from the order it speaks of. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { analyse, ForecastCache, scalesOf } from '../forecast/analysis';
import { priorFactors } from '../factors/factors';
import { kernelFactory } from '../linalg/kernel/kernel';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import type { PlanDocument } from '../document/schema';
import { DEFAULT_GOALS } from './cost';
import { reasonsFor } from './reasons';
import { OrderSearch } from './search';
import type { Laying } from './walk';

const scales = scalesOf(priorFactors().mean);
const kernel = kernelFactory(WebAssembly);
function tray(change: (p: PlanDocument) => void = () => {}): PlanDocument {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 80, rimFlangeMm: 0 }).plan!;
	plan.meshSizeMm = 25;
	plan.tacks = tackPattern(plan, { ...DEFAULT_TACKS, pattern: 'corners-and-middles' });
	plan.runs = orderPattern(plan, { pattern: 'straight-through', runLengthMm: 55 });
	change(plan);
	return plan;
}
/** as said to two decimals */
const same = (is: number | undefined, said: number) => expect(Math.abs(is! - said)).toBeLessThan(0.0051);
const QUANTITY = String.raw`(-?[\d.]+)(?: mm|°)`;

describe('reasons', () => {
	const plan = tray();
	const cache = new ForecastCache(kernel);
	const a = analyse(plan, cache);
	const search = new OrderSearch(a, scales, { ...DEFAULT_GOALS, restarts: 0 });
	const begun = search.weigh(search.given);
	const found = search.run([]);
	const reasons = reasonsFor(search, a, found.order, found.weighed, begun);
	/** every feature of an order by staging anew, with the cold metal that this search (without a warm forecast) knows */
	const staged = (order: readonly Laying[]) => {
		const b = analyse({ ...plan, runs: search.runsOf(order) }, cache);
		return new Map(plan.features.map((f) => [f.name, b.featureAt(f, 'unclamped', scales)]));
	};
	const jointOf = (name: string) => plan.joints.find((j) => j.name === name)!.id;
	const seamOf = (l: Laying) => plan.runs[l.run].joint;

	it('there are some, and the order they speak of is better', () => {
		expect(found.weighed.cost).toBeLessThan(begun.cost);
		expect(reasons.length).toBeGreaterThan(1);
		for (const r of reasons) expect(r).not.toMatch(/NaN|undefined|-0\.00/);
	});
	it('“A before B”: the values both ways round are those of staging', () => {
		const best = staged(found.order);
		const about = new RegExp(`^“(.+?)” before “(.+?)”: the other way round “(.+?)” would come to ${QUANTITY} instead of ${QUANTITY}`);
		const said = reasons.flatMap((r) => about.exec(r) ?? []).length;
		expect(said).toBeGreaterThan(0);
		for (const r of reasons) {
			const m = about.exec(r);
			if (!m) continue;
			const [first, second] = [jointOf(m[1]), jointOf(m[2])];
			const slots = found.order.flatMap((l, k) => (seamOf(l) === first || seamOf(l) === second ? [k] : []));
			const turned = [...found.order.filter((l) => seamOf(l) === second), ...found.order.filter((l) => seamOf(l) === first)];
			const other = [...found.order];
			slots.forEach((k, n) => (other[k] = turned[n]));
			same(staged(other).get(m[3]), Number(m[4]));
			same(best.get(m[3]), Number(m[5]));
			// it is a reason: the order it speaks against costs more
			expect(search.weigh(other).cost).toBeGreaterThan(found.weighed.cost);
		}
	});
	it('“laid the other way”: the values before are those of the order with those runs turned back', () => {
		const about = new RegExp(
			`(?:One run|\\d+ runs) of “(.+?)” laid the other way: as before, “(.+?)” would come to ${QUANTITY} instead of ${QUANTITY}`
		);
		for (const r of reasons) {
			const m = about.exec(r);
			if (!m) continue;
			const seam = jointOf(m[1]);
			const other = found.order.map((l) => (seamOf(l) === seam ? { ...l, reversed: false } : l));
			same(staged(other).get(m[2]), Number(m[3]));
			same(staged(found.order).get(m[2]), Number(m[4]));
		}
	});
	it('“runs cancel”: what each moves is the difference that staging shows around it, and the two are opposite', () => {
		const pair = reasons.flatMap((r) => {
			const m = new RegExp(`^Runs (\\d+) and (\\d+) of the new order cancel on “(.+?)”: \\+?${QUANTITY} and \\+?${QUANTITY}`).exec(r);
			return m ? [m] : [];
		});
		for (const m of pair) {
			const b = analyse({ ...plan, runs: search.runsOf(found.order) }, cache);
			const f = plan.features.find((x) => x.name === m[3])!;
			const values = b.staged.marks.map((mark) => b.featureAt(f, mark.id, scales));
			// marks: as tacked, then one a run
			for (const [number, said] of [
				[Number(m[1]), Number(m[4])],
				[Number(m[2]), Number(m[5])]
			])
				same(values[number] - values[number - 1], said);
			expect(Number(m[4]) * Number(m[5])).toBeLessThan(0);
		}
	});
	it('where nothing is better, or nothing is asked, it says that', () => {
		expect(reasonsFor(search, a, search.given, begun, begun)).toEqual(['No order tried is better than the plan as it stands by what was asked.']);
		const bare = tray((p) => (p.features = []));
		const b = analyse(bare, new ForecastCache(kernel));
		const s = new OrderSearch(b, scales, DEFAULT_GOALS);
		const w = s.weigh(s.given);
		expect(reasonsFor(s, b, s.given, { ...w, cost: w.cost - 1 }, w)).toHaveLength(1);
	});
	it('waits and flips saved are counted', () => {
		const words = reasonsFor(
			search,
			a,
			found.order,
			{ ...found.weighed, waitS: 0, flips: 1, hottestC: 60 },
			{ ...begun, waitS: 600, flips: 3, hottestC: 140 }
		);
		expect(words).toContain('It waits 10 min less for the metal.');
		expect(words).toContain('2 flips fewer.');
		expect(words.some((w) => w.startsWith('No run starts on metal hotter than 60 °C, instead of 140 °C'))).toBe(true);
	});
});
