/** Each warning comes where it belongs, names what it is about, and stays away otherwise. */
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { PlanDocument, Weight } from '../document/schema';
import { analyse, ForecastCache } from './analysis';
import { planWarnings } from './warnings';

const cache = new ForecastCache(kernelFactory(WebAssembly));
function warnings(change: (p: PlanDocument) => void = () => {}): string[] {
	const plan: PlanDocument = {
		...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [120, 120], lengthMm: 240 }).plan!,
		meshSizeMm: 40
	};
	change(plan);
	return planWarnings(analyse(plan, cache));
}
const says = (list: readonly string[], words: RegExp) => list.filter((w) => words.test(w)).length;

describe('warnings', () => {
	it('a sound plan has none about its seams and parts', () => {
		expect(says(warnings(), /has no runs|are not welded|without a tack|has a gap|apart in the drawing|is tied to|lifted|are? short/)).toBe(0);
	});
	it.each<[string, RegExp, (p: PlanDocument) => void]>([
		['no runs', /^Seam “Seam 1” has no runs yet/, (p) => (p.runs = [])],
		['part of it not welded', /^Seam “Seam 1”: \d+ mm of 240 mm are not welded/, (p) => (p.runs = p.runs.slice(0, 2))],
		['welded without a tack', /^Seam “Seam 1” is welded without a tack/, (p) => (p.tacks = [])],
		['a gap of more than half the sheet', /^Seam “Seam 1” has a gap of 1 mm, more than half the sheet/, (p) => (p.joints[0].gapMm = 1)],
		['nothing ties a part', /^Part “Blank 2” is tied to “Blank 1” by no tack and no run/, (p) => ((p.tacks = []), (p.runs = []))],
		['sides that lie apart', /^Seam “Seam 1”: the two sides lie 9\.\d mm apart in the drawing/, (p) => (p.parts[1].frame.origin[2] += 9.5)]
	])('%s', (_, words, change) => expect(says(warnings(change), words)).toBe(1));
	it('a short seam is said to be overstated', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [60, 60], lengthMm: 50 }).plan!;
		expect(
			says(
				planWarnings(analyse({ ...plan, meshSizeMm: 20 }, new ForecastCache())),
				/^Seam “Seam 1” \(50 mm\) is short: the closed forms are for long seams/
			)
		).toBe(1);
	});
	it('how far fillets bend their sheets is said to be known to a third, once for all, and not where the shop has given its own', () => {
		const { plan } = newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'] });
		const of = (p: PlanDocument) => planWarnings(analyse({ ...p, meshSizeMm: 40 }, new ForecastCache()));
		expect(says(of(plan!), /^Seams? .* (is a fillet|are fillets): how far its weld bends .* is known to a third/)).toBe(1);
		const given = { ...plan!, joints: plan!.joints.map((j) => ({ ...j, response: { angularChangeRad: 0.03 } })) };
		expect(says(of(given), /known to a third/)).toBe(0);
		expect(says(warnings(), /known to a third/)).toBe(0);
	});
	it('what holds of several seams is said once, with all their names', () => {
		const plan = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [60, 60, 60], lengthMm: 50 }).plan!;
		const of = (p: PlanDocument) => planWarnings(analyse({ ...p, meshSizeMm: 20 }, new ForecastCache()));
		expect(of(plan).filter((w) => /short/.test(w))).toEqual([
			'Seams “Seam 1” (50 mm), “Seam 2” (50 mm) are short: the closed forms are for long seams and overstate their pull.'
		]);
		expect(says(of({ ...plan, runs: [] }), /^Seams “Seam 1”, “Seam 2” have no runs yet: the forecast leaves them as tacked\.$/)).toBe(1);
		expect(says(of({ ...plan, tacks: [] }), /^Seams “Seam 1”, “Seam 2” are welded without a tack: their gaps/)).toBe(1);
	});
	it('a weight that the sheet would lift is named with both forces; a heavy one is not', () => {
		const weight = (massKg: number): Weight =>
			({ id: 'w', name: 'Lead bag', kind: 'weight', part: 'blank-1', at: [60, 120], massKg, life: { on: 'start', off: 'when-cold' } }) as Weight;
		const angle = (p: PlanDocument) => (p.joints[0].response = { tendonForceN: 20_000, transverseShrinkageMm: 0.3, angularChangeRad: 0.02 });
		const of = (kg: number) =>
			warnings((p) => {
				angle(p);
				// the joint would lift the far edges of both blanks off the bench, or push their middles down
				p.holdDowns = ['blank-1', 'blank-2'].flatMap((part) =>
					[
						[10, 40],
						[10, 200],
						[110, 120]
					].map(([x, y], i): Weight => ({ ...weight(kg), id: `${part}-${i}`, part, at: [x, y] }))
				);
			});
		expect(says(of(0.02), /^“Lead bag” weighs 0 N and the sheet pushes with up to \d+ N: it would be lifted/)).toBeGreaterThan(0);
		expect(says(of(5000), /lifted/)).toBe(0);
	});
	it('settings are named with what is wrong with them, once however many seams use them', () => {
		const list = warnings((p) => (p.settings[0] = { ...p.settings[0], ampsA: 300, speedMmPerS: 1 }));
		const name = newPlan('butt-panel', FAMILY_DEFAULTS['butt-panel']).plan!.settings[0].name;
		expect(list.some((w) => w.startsWith(`${name}: `) && /burn through/.test(w))).toBe(true);
		expect(new Set(list).size).toBe(list.length);
	});
});
