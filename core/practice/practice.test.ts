/** The practice bench: sound exercises, tools that do what they say, marks that can be lost, and the trade's own facts. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { kernelFactory } from '../linalg/kernel/kernel';
import { checkPlan } from '../plan/check';
import { EXERCISES } from './exercises';
import { EXERCISE_IDS, type ExerciseId } from './ids';
import { lessonWords, MOST, outcomeOf, scoreOf, type Guess, type Welded } from './outcome';
import { planned } from './tools';
import { weldIn } from './weld';

const kernel = kernelFactory(WebAssembly);
const FORECASTS = 400_000;
const mm = (v: number) => `${v.toFixed(2)} mm`;

describe('every exercise', () => {
	it.each(EXERCISE_IDS)('%s: a sound piece, two to four ways that can be welded, and what is looked at is on it', (id) => {
		const { given, ways, about, expects } = EXERCISES[id];
		const plan = given();
		expect(checkPlan(plan)).toEqual([]);
		expect(plan.features.some((f) => f.id === about)).toBe(true);
		const list = ways(plan);
		expect(list.length).toBeGreaterThanOrEqual(2);
		expect(list.length).toBeLessThanOrEqual(4);
		expect(new Set(list.map((w) => w.name)).size).toBe(list.length);
		for (const w of list) {
			expect(checkPlan(w.plan)).toEqual([]);
			// read alike, whatever the way
			expect(w.plan.features.map((f) => f.id)).toEqual(plan.features.map((f) => f.id));
		}
		if (expects !== undefined) expect(list[expects]).toBeDefined();
	});
	it('ways differ: no two are welded alike', () => {
		for (const id of EXERCISE_IDS) {
			const list = EXERCISES[id].ways(EXERCISES[id].given());
			const welded = list.map(({ plan, planished }) => JSON.stringify([plan.parts, plan.tacks, plan.runs, plan.holdDowns, planished]));
			expect(new Set(welded).size, id).toBe(list.length);
		}
	});
});

describe('a learner’s own plan', () => {
	const { given, tools } = EXERCISES.butt;
	it('is the piece as given where nothing is chosen', () => expect(planned(given(), tools, {})).toEqual({ plan: given(), planished: 0 }));
	it('takes tacks, order, bar, clamps and preset, each by the planner’s own tool', () => {
		const { plan } = planned(given(), tools, { tacks: 'long-tacks', order: 'back-step', runLengthMm: 40, bar: true, clamps: true, presetDeg: 2 });
		expect(plan.runs).toHaveLength(5);
		expect(plan.holdDowns.filter((h) => h.kind === 'bar')).toHaveLength(1);
		expect(plan.holdDowns.filter((h) => h.kind === 'clamp').length).toBeGreaterThan(1);
		expect(plan.joints[0].presetDeg).toBe(2);
		expect(plan.tacks).not.toEqual(given().tacks);
		expect(checkPlan(plan)).toEqual([]);
	});
	it('a tool that the exercise does not have, and a school that the piece does not take, are refused by name', () => {
		expect(() => planned(given(), tools, { planished: 0.5 })).toThrow(/choices.planished/);
		expect(() => planned(given(), tools, { order: 'mitre-face-first' })).toThrow(/choices.order/);
	});
});

describe('marks', () => {
	const [looked] = EXERCISES.butt.given().features;
	const features = [{ ...looked, kind: 'straightness' as const, id: 'f' }] as never;
	const welded = (name: string, value: number, cost = value ** 2): Welded => ({ name, values: [value], minutes: 1, cost });
	const ways = [welded('a', 4), welded('b', 1)];
	const of = (guess: Guess, own = welded('own', 1), best?: number) => outcomeOf(features, 'f', ways, own, guess, best);
	it('all for the right way, a near guess and the best plan', () => expect(scoreOf(of({ way: 1, value: 3.5 }).marks)).toBe(100));
	it('half for a guess within twice, none beyond or of the other sign', () => {
		expect(of({ way: 1, value: 2.1 }).marks.howFar).toBe(MOST.howFar / 2);
		expect(of({ way: 1, value: 1.9 }).marks.howFar).toBe(0);
		expect(of({ way: 1, value: -4 }).marks.howFar).toBe(0);
	});
	it('none for the wrong way; "no difference" is right only where a reading would not tell', () => {
		expect(of({ way: 0, value: 4 }).marks.which).toBe(0);
		expect(of({ way: 'alike', value: 4 }).marks.which).toBe(0);
		const near = outcomeOf(features, 'f', [welded('a', 1), welded('b', 1.01)], welded('own', 1), { way: 'alike', value: 1 });
		expect(near).toMatchObject({ least: 'alike', marks: { which: MOST.which } });
	});
	it('a plan that lies off twice as far as the best that anybody found has half', () => {
		expect(of({ way: 1, value: 4 }, welded('own', 2)).marks.plan).toBeCloseTo(MOST.plan / 2, 9);
		expect(of({ way: 1, value: 4 }, welded('own', 1), 0.25).marks.plan).toBeCloseTo(MOST.plan / 2, 9);
	});
	it('what nobody can plan, another metal or shape, is no measure of a plan', () => {
		const others = [welded('a', 4), { ...welded('of carbon steel', 0.1), isAnother: true as const }];
		const o = outcomeOf(features, 'f', others, welded('own', 1), { way: 1, value: 4 });
		expect(o.best).toBe(1);
		expect(scoreOf(o.marks)).toBe(100);
	});
	it('says whether it came as the trade has it, otherwise, or that the shop does not tell', () => {
		const o = of({ way: 1, value: 4 });
		expect(lessonWords(o, 1, mm)).toMatch(/a: 4.00 mm; b: 1.00 mm. As the trade has it, “b”/);
		expect(lessonWords(o, 0, mm)).toMatch(/Otherwise than the trade has it.*Weld a coupon/);
		expect(lessonWords({ ...o, least: 'alike' }, 1, mm)).toMatch(/does not tell them apart, where the trade does/);
	});
});

/** Common practice, no source: what the virtual shop bears out; what it does not stands in the theory of learning. */
describe('facts of the trade on the practice bench', () => {
	const off = (id: ExerciseId) => {
		const { given, ways, about } = EXERCISES[id];
		const plan = given();
		const k = plan.features.findIndex((f) => f.id === about);
		return ways(plan).map((w) => Math.abs(weldIn(id, w, kernel).values[k]));
	};
	it('a bar leaves a butt seam flatter than free', { timeout: FORECASTS }, () => {
		const [free, bar] = off('butt');
		expect(bar).toBeLessThan(0.5 * free);
	});
	deeply('planished it lies down, and the more the flatter, as far as its pull goes', { timeout: FORECASTS }, () => {
		const [left, half, all] = off('planishing');
		expect(half).toBeLessThan(left);
		expect(all).toBeLessThan(half);
	});
	deeply('bolted to a block a flange comes off flatter', { timeout: FORECASTS }, () => {
		const [free, bolted] = off('flange');
		expect(bolted).toBeLessThan(free);
	});
	it('the same plan comes out the same in every figure', { timeout: FORECASTS }, () => {
		const [, bar] = EXERCISES.butt.ways(EXERCISES.butt.given());
		expect(weldIn('butt', bar, kernel)).toEqual(weldIn('butt', bar, kernel));
	});
});
