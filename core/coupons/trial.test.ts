/** Trials: the order chance makes, how many it takes, what is said of two ways; and that two ways differ in one thing. */
import { describe, expect, it } from 'vitest';
import { priorFactors, Z90 } from '../factors/factors';
import type { Sensitivity } from '../learn/sensitivity';
import { normalsFrom } from '../linalg/random';
import { checkPlan } from '../plan/check';
import { FaultError } from '../document/faults';
import type { PlanDocument } from '../document/schema';
import { arcEnergy } from '../heat/arcEnergy';
import { couponPlan } from './coupons';
import { checkWays, DIFFERENCE, DIFFERENCES, type Difference } from './differences';
import { expectedBetween, inRounds, judge, sizeOf } from './trial';

const none = () => undefined;

describe('the order of welding', () => {
	it('each round has each way once, the same seed the same order, other seeds others', () => {
		const order = inRounds(3, 5, 11);
		expect(order.length).toBe(15);
		for (let r = 0; r < 5; r++) expect([...order.slice(3 * r, 3 * r + 3)].sort()).toEqual([0, 1, 2]);
		expect(inRounds(3, 5, 11)).toEqual(order);
		expect(new Set(Array.from({ length: 20 }, (_, s) => inRounds(3, 5, s).join())).size).toBeGreaterThan(15);
	});
	it('no way comes first more often than chance: 3 ways, 3000 rounds, within four standard deviations of a third', () => {
		const order = inRounds(3, 3000, 5);
		const firsts = [0, 1, 2].map((w) => order.filter((v, i) => i % 3 === 0 && v === w).length);
		const sd = Math.sqrt((3000 * 2) / 9);
		for (const n of firsts) expect(Math.abs(n - 1000)).toBeLessThan(4 * sd);
	});
});

describe('what is said of two ways', () => {
	/** Darwin’s maize, fifteen pairs of pots, eighths of an inch taller when crossed (Fisher 1935, The Design of Experiments, from memory): t = 2.148, 14 degrees, p just under 0.05. */
	const DARWIN = [49, -67, 8, 16, 6, 23, 28, 41, 14, 29, 56, 24, 75, 60, -48];
	it('Darwin’s maize: 20.93 eighths, t of 2.148, hardly chance', () => {
		const [b] = judge([DARWIN, DARWIN.map(() => 0)], 5, none);
		expect(b.paired).toBe(true);
		expect(b.compared!.difference).toBeCloseTo(20.93, 2);
		expect(b.chance!).toBeCloseTo(0.0497, 3);
		expect(b.verdict).toBe('differs');
	});
	it('a round that lacks one way takes the pairing away: each way by its own scatter', () => {
		const [b] = judge(
			[
				[1, 2, 3, undefined],
				[2, 3.5, 3.9, 5]
			],
			0.5,
			none
		);
		expect(b.paired).toBe(false);
		expect(b.compared!.degrees).toBeGreaterThan(3);
	});
	it('with three ways chance is counted three times (Bonferroni), and no more than certain', () => {
		const a = [1.0, 1.1, 0.9, 1.05];
		const all = judge([a, a.map((v, i) => v + 0.1 + 0.02 * i), a.map((v, i) => v + (i % 2 ? 0.01 : -0.01))], 0.5, none);
		const [two] = judge([a, a.map((v, i) => v + 0.1 + 0.02 * i)], 0.5, none);
		expect(all.length).toBe(3);
		expect(all[0].chance).toBeCloseTo(3 * two.chance!, 12);
		expect(all[1].chance).toBe(1);
	});
	it('within what matters it is alike; neither, it is open and says how many would tell', () => {
		expect(
			judge(
				[
					[1, 1.01, 0.99, 1.0],
					[1.0, 0.99, 1.01, 1.01]
				],
				0.5,
				none
			)[0].verdict
		).toBe('alike');
		const [b] = judge(
			[
				[1, 2, 0.4, 1.6],
				[1.2, 1.4, 1.5, 0.1]
			],
			0.3,
			none
		);
		expect(b.verdict).toBe('open');
		expect(b.wants!).toBeGreaterThan(4);
	});
	it('rounds that all differ by the same step are compared by how far pieces lie apart', () => {
		const [b] = judge(
			[
				[1, 1.5, 1],
				[1, 1.5, 1]
			],
			2,
			none
		);
		expect(b.why).toBeUndefined();
		expect(b.paired).toBe(false);
		expect(b.compared!.difference).toBe(0);
		expect(b.compared!.degrees).toBeCloseTo(4, 9);
		expect(b.verdict).toBe('alike');
	});
	it('one of each, or readings all alike, are named and nothing is said', () => {
		expect(judge([[1], [2]], 0.1, none)[0].why).toMatch(/at least two of each/);
		expect(
			judge(
				[
					[1, 1, 1],
					[2, 2, 2]
				],
				0.1,
				none
			)[0].why
		).toMatch(/finer step/);
		expect(
			judge(
				[
					[undefined, undefined],
					[2, 2.1]
				],
				0.1,
				none
			)[0].verdict
		).toBe('open');
	});
	it('the number that is proposed really shows the difference about as often as it says', () => {
		const normal = normalsFrom(29);
		const { each, scatter } = sizeOf(0.1, 0, 0.12);
		let seen = 0;
		const TRIALS = 600;
		for (let t = 0; t < TRIALS; t++) {
			const of = (mean: number) => Array.from({ length: each }, () => mean + scatter * normal());
			if (judge([of(0), of(0.12)], 0.12, none)[0].verdict === 'differs') seen++;
		}
		expect(seen / TRIALS).toBeGreaterThan(0.7);
		expect(seen / TRIALS).toBeLessThan(0.9);
	});
});

describe('what the forecast expects', () => {
	const said = (predicted: number, slopes: [number, number, number]): Sensitivity => ({
		feature: 'w',
		name: 'Width',
		kind: 'length',
		unit: 'mm',
		moment: 'unclamped',
		depth: 'final-shape',
		predicted,
		slopes,
		spread: 0.01,
		causes: []
	});
	const prior = priorFactors();
	it('ways that hang alike on the factors: the factors drop out of the difference', () => {
		const pair = [said(-1, [0, -1, 0]), said(-0.9, [0, -1, 0])] as const;
		const one = expectedBetween(...pair, [prior, prior], { each: 5, together: true });
		const apart = expectedBetween(...pair, [prior, prior], { each: 5, together: false });
		expect(one.difference).toBeCloseTo(-0.1, 12);
		expect(one.half).toBeLessThan(0.3 * apart.half);
	});
	it('what each seam scatters by goes down with the number of pieces, and is counted once', () => {
		const scatter = 0.1;
		const seam = { label: 'seam A', low: -Z90 * scatter, high: Z90 * scatter };
		const own = { ...said(-1, [0, 0, 0]), spread: scatter, causes: [seam] };
		const half = (each: number) => expectedBetween(own, own, [prior, prior], { each, together: true }).half;
		// two means of one piece each, nothing else in doubt: the root of two
		expect(half(1)).toBeCloseTo(Z90 * Math.SQRT2 * scatter, 12);
		expect(half(1_000_000)).toBeLessThan(0.001);
	});
	it('readings that leave its band are said to come otherwise', () => {
		const expected = () => ({ difference: 0, half: 0.05 });
		expect(
			judge(
				[
					[1, 1.1, 0.9],
					[2, 2.2, 2.1]
				],
				0.1,
				expected
			)[0].asForecast
		).toBe(false);
		expect(
			judge(
				[
					[1, 1.1, 0.9],
					[1.1, 1.0, 0.95]
				],
				0.1,
				expected
			)[0].asForecast
		).toBe(true);
	});
});

describe('ways differ in one thing', () => {
	const base = couponPlan({ kind: 'butt', material: '1.4301', thicknessMm: 1.5 });
	const USED: Record<Difference, string> = {
		material: 'S235',
		heat: '70',
		pulse: '2',
		bar: 'copper',
		purge: 'purge',
		clamp: 'clamped',
		order: 'back-step',
		tacks: '40',
		filler: '1.6',
		gap: '0.5'
	};
	/** what each may touch of a plan */
	const TOUCHES: Record<Difference, (keyof PlanDocument)[]> = {
		material: ['parts'],
		heat: ['settings'],
		pulse: ['settings'],
		bar: ['holdDowns'],
		purge: ['root'],
		clamp: ['holdDowns'],
		order: ['runs'],
		tacks: ['tacks'],
		filler: ['settings'],
		gap: ['joints']
	};
	it.each(DIFFERENCES)('%s: a sound plan, changed there and nowhere else', (difference) => {
		const { change, named } = DIFFERENCE[difference];
		const value = USED[difference];
		const plan = change(base, value);
		expect(checkPlan(plan).filter((f) => f.allowed)).toEqual([]);
		const changed = (Object.keys({ ...base, ...plan }) as (keyof PlanDocument)[]).filter((k) => JSON.stringify(plan[k]) !== JSON.stringify(base[k]));
		expect(changed).toEqual(TOUCHES[difference]);
		expect(named(value).length).toBeGreaterThan(3);
	});
	it('a pulse keeps the heat: mean current within a hundredth', () => {
		const heat = (p: PlanDocument) => arcEnergy({ ...p.settings[0], volts: 10 }).netHeat;
		const pulsed = DIFFERENCE.pulse.change(base, '2');
		expect(pulsed.settings[0].current).toBe('pulsed');
		expect(heat(pulsed) / heat(base)).toBeCloseTo(1, 2);
		expect(heat(DIFFERENCE.pulse.change(pulsed, '0')) / heat(base)).toBeCloseTo(1, 2);
	});
	it('tacks come as far apart as asked: within a tenth', () => {
		const at = DIFFERENCE.tacks
			.change(base, '40')
			.tacks.map((t) => t.stationMm)
			.sort((p, q) => p - q);
		const gaps = at.slice(1).map((s, i) => s - at[i]);
		expect(Math.max(...gaps)).toBeLessThan(44);
		expect(Math.min(...gaps)).toBeGreaterThan(30);
	});
	it('two ways alike, a number out of reach, a metal nobody knows: refused by way', () => {
		const faults = (d: Difference, values: string[]) => {
			try {
				checkWays(d, values, ['1.4301']);
				return [];
			} catch (e) {
				return (e as FaultError).faults.map((f) => f.field);
			}
		};
		expect(faults('heat', ['50', '60'])).toEqual([]);
		expect(faults('heat', ['50', '50'])).toEqual(['ways.1.value']);
		expect(faults('heat', ['4000', ''])).toEqual(['ways.0.value', 'ways.1.value']);
		expect(faults('gap', ['0', '9'])).toEqual(['ways.1.value']);
		expect(faults('bar', ['copper', 'gold'])).toEqual(['ways.1.value']);
		expect(faults('material', ['1.4301', 'unobtainium'])).toEqual(['ways.1.value']);
	});
});
