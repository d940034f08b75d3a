/** Proposals: any of the decisions may be taken or left, nothing that hands cannot carry out is proposed, and the final shape bears it out. */
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { accessFindings } from '../access/access';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import { readItem } from '../registers/registers';
import { heatChecks } from '../response/settingsAdvice';
import { responseInput } from '../response/forPlan';
import { tackPattern } from '../schools/tackPattern';
import { tackStart } from '../schools/tacks';
import { DEFAULT_GOALS } from '../search/cost';
import { brokenRule } from '../sequence/precedence';
import { decided, DECISION_KINDS } from './decision';
import { FLAVOURS, missOf, priceOf } from './flavour';
import { propose, type Proposal, type SoFar } from './propose';
import { keepsGaps } from './steps/tacks';

const kernel = kernelFactory(WebAssembly);
const made = (): PlanDocument => {
	const { plan } = newPlan('open-trough', {
		...FAMILY_DEFAULTS['open-trough'],
		lengthMm: 240,
		widthMm: 160,
		depthMm: 80,
		rimFlangeMm: 0,
		thicknessMm: 1
	});
	// an arc that leaves the root open, and a mouth that must come very true
	return {
		...plan!,
		meshSizeMm: 25,
		settings: plan!.settings.map((s) => ({ ...s, ampsA: 14, speedMmPerS: 4 })),
		features: plan!.features.map((f) => (f.id === 'mouth-width' ? { ...f, tolerance: { upper: 0.15, lower: -0.15, source: 'typed' } } : f))
	};
};
const bar = (name: string, lengthMm: number) => ({
	kind: 'bar' as const,
	item: readItem('bar', { name, material: 'copper', widthMm: 30, thicknessMm: 12, lengthMm })
});

describe('a proposal', () => {
	const plan = made();
	const told: [number, SoFar][] = [];
	let p: Proposal;
	beforeAll(() => {
		const stock = [bar('Too short', 60), bar('Just right', 100), bar('Too long', 900)];
		p = propose(plan, { goals: DEFAULT_GOALS, kernel, stock, tell: (share, soFar) => told.push([share, soFar]) });
	}, 400_000);
	const taking = (ids: readonly string[]) =>
		decided(
			plan,
			p.cards.filter((c) => ids.includes(c.id))
		);

	it('an arc that does not reach the root is set anew, whatever it costs, and then does', () => {
		const card = p.cards.find((c) => c.kind === 'settings')!;
		expect(card.isNeeded).toBe(true);
		for (const f of FLAVOURS) expect(p.flavours[f].take).toContain(card.id);
		const then = taking([card.id]);
		const bad = (of: PlanDocument) =>
			heatChecks(responseInput(of, of.joints[0], of.settings[0], undefined)).filter((c) => c.of === 'weld' && !c.isGood);
		expect(bad(plan).length).toBeGreaterThan(0);
		expect(bad(then)).toEqual([]);
	});
	it('any of its decisions may be taken and any left: the plan is sound, in order, and can be got at', () => {
		const refused = (of: PlanDocument) => accessFindings(of, assemblyMesh(of)).filter((f) => f.kind === 'refused' || f.holdDown !== undefined);
		expect(refused(plan)).toEqual([]);
		fc.assert(
			fc.property(fc.subarray(p.cards.map((c) => c.id)), (ids) => {
				const then = taking(ids);
				expect(checkPlan(then)).toEqual([]);
				expect(brokenRule(then)).toBeUndefined();
				expect(refused(then)).toEqual([]);
				// what no decision is about stays as it is
				expect([then.parts, then.features, then.fitUp, then.datum]).toEqual([plan.parts, plan.features, plan.fitUp, plan.datum]);
			}),
			{ numRuns: 12, seed: 4 }
		);
		expect(decided(plan, [])).toEqual(plan);
	});
	it('bars come from the register, none that is too short or stands out of its corner', () => {
		const bars = p.cards.flatMap((c) => c.change.holdDowns ?? []).filter((h) => h.kind === 'bar');
		expect(bars.length).toBeGreaterThan(0);
		for (const b of bars) {
			const mm = b.toMm - b.fromMm;
			expect(b.name.startsWith('Just right')).toBe(mm <= 100 && mm >= 60);
		}
	});
	it('no set costs more than the plan as it stands, by the final shape; the truest lies nearest, the quickest takes the least time', () => {
		const price = (f: (typeof FLAVOURS)[number], c: Proposal['now']) =>
			priceOf(plan.features, { values: c.values.map((v) => v.predicted), minutes: c.minutes }, DEFAULT_GOALS, f);
		const needed = p.cards.some((c) => c.isNeeded);
		expect(p.now.by).toBe('final-shape');
		for (const f of FLAVOURS) {
			const { column, take } = p.flavours[f];
			expect(column.by).toBe('final-shape');
			const free = take.filter((id) => !p.cards.find((c) => c.id === id)!.isNeeded);
			// an arc that melts the root pulls more than one that does not: that is not held against the rest
			if (!needed && free.length) expect(price(f, column)).toBeLessThanOrEqual(price(f, p.now));
		}
		const miss = (f: (typeof FLAVOURS)[number]) =>
			missOf(
				plan.features,
				p.flavours[f].column.values.map((v) => v.predicted),
				DEFAULT_GOALS
			);
		expect(miss('truest')).toBeLessThanOrEqual(miss('quickest') + 1e-9);
		expect(p.flavours.quickest.column.minutes).toBeLessThanOrEqual(p.flavours.truest.column.minutes + 1e-9);
	});
	it('says where it is, what it has decided, and never goes back', () => {
		expect(told.at(-1)![0]).toBe(1);
		told.slice(1).forEach(([share], i) => expect(share).toBeGreaterThanOrEqual(told[i][0] - 1e-12));
		expect(told.some(([, s]) => s.decided.length > 0)).toBe(true);
	});
	it('stopped at once, it says so and claims no final shape', () => {
		const stopped = propose(plan, { goals: DEFAULT_GOALS, kernel, stop: () => true });
		expect(stopped.stopped).toBe(true);
		expect(stopped.words).toMatch(/^Stopped/);
		expect(stopped.now.by).toBe('quick');
	});
});

describe('decisions', () => {
	it('stand in working order, each kind once', () => {
		expect(new Set(DECISION_KINDS).size).toBe(DECISION_KINDS.length);
		expect(DECISION_KINDS.indexOf('tacks')).toBeLessThan(DECISION_KINDS.indexOf('order'));
	});
	it('give the same plan in whatever order they are taken', () => {
		const plan = made();
		const a = { kind: 'cooling' as const, change: { fan: true as const } };
		const b = { kind: 'order' as const, change: { runs: [...plan.runs].reverse() } };
		expect(decided(plan, [a, b])).toEqual(decided(plan, [b, a]));
		expect(decided(plan, [a, b]).runs.every((r) => r.cooling === 'fan')).toBe(true);
	});
	it('tacks 75 mm apart do not keep a fused edge that lies on nothing; with wire fed, or close together, they do', () => {
		const { plan } = newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'] });
		const wide = tackPattern(plan!, { ...tackStart('two-stage'), locateMm: 75, closeMm: 75 });
		const near = tackPattern(plan!, tackStart('two-stage'));
		expect(keepsGaps(plan!, wide)).toBe(false);
		expect(keepsGaps(plan!, near)).toBe(true);
		expect(keepsGaps({ ...plan!, joints: plan!.joints.map((j) => ({ ...j, filler: true })) }, wide)).toBe(true);
		expect(keepsGaps(plan!, [])).toBe(false);
	});
	it('a feature outside its limit counts for more than its share: 1 at the limit, 4.75 half as far again', () => {
		const [f] = made().features;
		const at = (v: number) => missOf([{ ...f, tolerance: { upper: 1, source: 'typed' } }], [v], DEFAULT_GOALS);
		expect([at(0), at(0.5), at(1)]).toEqual([0, 0.25, 1]);
		expect(at(1.5)).toBeCloseTo(2.25 + 10 * 0.25, 12);
	});
});
