/** Planned on from a piece that is half welded: what lies stays as it lies, and of what is left the best is found. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { priorFactors } from '../factors/factors';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { pathLength } from '../geometry/polyline';
import { kernelFactory } from '../linalg/kernel/kernel';
import { checkPlan } from '../plan/check';
import { orderPattern } from '../schools/orderPattern';
import { brokenRule } from '../sequence/precedence';
import type { PlanDocument, Run } from '../document/schema';
import { benchPlan } from '../weldout/benchPlan';
import type { BenchStep } from '../weldout/benchSteps';
import { whereItStands, type LogLine } from '../weldout/logbook';
import { make } from '../weldout/testing';
import { DEFAULT_GOALS, featureCost, type SearchGoals } from './cost';
import { planFromHere, replan, type Replan, whereItEnds } from './replan';

const kernel = kernelFactory(WebAssembly);
const factors = priorFactors();
/** what counts is how true it ends */
const GOALS: SearchGoals = { ...DEFAULT_GOALS, time: 0, heat: 0, flip: 0, restarts: 2 };

/** Few and long runs, tacked at their ends only: the order matters, and all orders of what is left can be tried. */
function tray(): PlanDocument {
	const plan = make('open-trough', { lengthMm: 240, widthMm: 160, depthMm: 80, rimFlangeMm: 0 });
	plan.meshSizeMm = 30;
	plan.tacks = plan.joints.flatMap((j) =>
		[4, pathLength(j.a.path) - 4].map((stationMm, i) => ({ id: `${j.id}-${i}`, joint: j.id, stationMm, lengthMm: 6, stage: 1, fusionOnly: true }))
	);
	plan.runs = orderPattern(plan, { pattern: 'straight-through', runLengthMm: 4000 });
	return plan;
}
const plan = tray();
const { steps } = benchPlan(plan);
let n = 0;
const line = (kind: LogLine['kind'], step?: string, more: Partial<LogLine> = {}): LogLine => ({
	clientId: `c${n}`,
	kind,
	step,
	at: 60_000 * n++,
	...more
});
/** Everything done in turn until so many runs lie. */
function until(runs: number): LogLine[] {
	const log = [line('started')];
	let laid = 0;
	for (let s = whereItStands(steps, log).current; s && (s.step.kind !== 'run' || laid++ < runs); s = whereItStands(steps, log).current)
		log.push(line('step-done', s.step.id));
	return log;
}
const LEFT = 3;
const half = until(plan.runs.length - LEFT);
const ask = (log: readonly LogLine[], more: object = {}) => replan(plan, whereItStands(steps, log), [], { goals: GOALS, factors, kernel, ...more });
const cache = new ForecastCache(kernel);
const valuesOf = (p: PlanDocument) =>
	forecast(p, { factors, cache })
		.warmed()
		.result.features.map((f) => f.predicted);
const reversed = (r: Run): Run => ({ ...r, fromMm: r.toMm, toMm: r.fromMm });

describe('planning on from a piece that is half welded', () => {
	/** where it ends as planned, each time something was told */
	const told: number[][] = [];
	const found = ask(half, {
		tell: (_: string, __: number, soFar?: Replan) => void (soFar && told.push(soFar.ways[0].ends.map((e) => e.predicted)))
	});
	const [asPlanned, ...better] = found.ways;
	it('tells the first figures before the heat of what lies is worked out, and puts them right with it', () => {
		forecast(plan, { factors, cache }).result.features.forEach((f, k) => expect(told[0][k]).toBeCloseTo(f.predicted, 9));
		asPlanned.ends.forEach((e, k) => expect(told[1][k]).toBe(e.predicted));
		expect(told[0]).not.toEqual(told[1]);
		// asked for by themselves they are the same, and nothing else is there yet
		const first = whereItEnds(plan, whereItStands(steps, half), [], { factors, cache });
		first.ways.forEach((w) => w.ends.forEach((e, k) => expect(e.predicted).toBeCloseTo(told[0][k], 9)));
		expect(first.ways.map((w) => w.id)).toEqual(['as-planned']);
	});
	it('laid as planned, it ends where the plan’s own forecast has it', () => {
		expect(found.laid).toBe(plan.runs.length - LEFT);
		valuesOf(plan).forEach((v, k) => expect(asPlanned.ends[k].predicted).toBeCloseTo(v, 9));
		for (const e of asPlanned.ends) expect(e.low <= e.predicted && e.predicted <= e.high).toBe(true);
		// also by the shape that knows waves
		expect(asPlanned.final!.values.every(Number.isFinite)).toBe(true);
	});
	it('what was read as tacked is carried to the end of every way', () => {
		const feature = plan.features[0];
		const tacked = forecast(plan, { factors, cache }).warmed().result.features[0].moments['as-tacked'].predicted;
		const read = [
			{ feature: feature.id, moment: 'as-tacked' as const, value: tacked - 3, at: 1 },
			{ feature: feature.id, moment: 'as-tacked' as const, value: tacked + 0.5, at: 2 },
			{ feature: feature.id, moment: 'cold' as const, value: 99, at: 3 }
		];
		const shifted = replan(plan, whereItStands(steps, half), read, { goals: GOALS, factors, kernel });
		expect(shifted.features[0].offset).toBeCloseTo(0.5, 9);
		expect(shifted.features[1].offset).toBeUndefined();
		expect(shifted.ways[0].ends[0].predicted - asPlanned.ends[0].predicted).toBeCloseTo(0.5, 9);
		expect(shifted.ways[0].ends[1].predicted).toBeCloseTo(asPlanned.ends[1].predicted, 9);
	});
	it('every way leaves what lies as it lies, keeps the plan’s rules, and is a plan that can be issued', () => {
		expect(better.length).toBeGreaterThan(0);
		for (const w of better) {
			const runs = w.plan!.runs;
			expect(runs.slice(0, found.laid), w.id).toEqual(plan.runs.slice(0, found.laid));
			expect(runs.map((r) => r.id).sort(), w.id).toEqual(plan.runs.map((r) => r.id).sort());
			expect([brokenRule(w.plan!), checkPlan(w.plan!)], w.id).toEqual([undefined, []]);
			// the log still says the same of it
			const now = whereItStands(benchPlan(w.plan!).steps, half);
			expect(now.steps.filter((s) => s.step.kind === 'run' && s.state === 'done').length, w.id).toBe(found.laid);
			expect(now.steps.find((s) => s.state === 'open')!.step.kind, w.id).not.toBe('tack');
		}
		expect(better.map((w) => w.gain)).toEqual([...better.map((w) => w.gain)].sort((p, q) => q - p));
	});
	it('of what is left, the order found is as good as the best of all of them, one by one', () => {
		const head = plan.runs.slice(0, found.laid);
		const left = plan.runs.slice(found.laid);
		const orders: Run[][] = [[]];
		for (let i = 0; i < LEFT; i++)
			orders.splice(
				0,
				orders.length,
				...orders.flatMap((o) =>
					left
						.filter((r) => !o.some((x) => x.id === r.id))
						.flatMap((r) => [
							[...o, r],
							[...o, reversed(r)]
						])
				)
			);
		const costs = orders
			.map((o) => ({ ...plan, runs: [...head, ...o] }))
			.filter((p) => !brokenRule(p))
			.map((p) => featureCost(plan.features, valuesOf(p), GOALS));
		expect(costs.length).toBeGreaterThan(20);
		const given = featureCost(plan.features, valuesOf(plan), GOALS);
		const best = Math.min(...costs);
		const order = found.ways.find((w) => w.id === 'order');
		const reached = order ? given - order.gain : given;
		// the search times heat by its own estimate, the forecast by the schedule: a hundredth of the cost
		expect(reached).toBeLessThanOrEqual(best + 0.01 * given);
	});
	it('a way’s figures are those of its own plan', () => {
		for (const w of better) valuesOf(w.plan!).forEach((v, k) => expect(w.ends[k].predicted, w.id).toBeCloseTo(v, 6));
	});
	it('less current and waits touch only what is left; a bar goes on before the first run that is left of its seam', () => {
		// early on, when most is left
		const { laid, ways } = ask(until(1));
		const less = ways.find((w) => w.id === 'less-current')!;
		expect(less.plan!.runs.map((r) => r.settings?.endsWith('.less') ?? false)).toEqual(plan.runs.map((_, i) => i >= laid));
		// a flat seam is where a bar helps
		const panel = make('butt-panel', { widthsMm: [120, 100, 110], lengthMm: 220 });
		panel.runs = orderPattern(panel, { pattern: 'straight-through', runLengthMm: 4000 });
		const listed = benchPlan(panel).steps;
		const first = listed.findIndex((s) => s.kind === 'run');
		const log = [line('started'), ...listed.slice(0, first + 1).map((s) => line('step-done', s.id))];
		const bars = replan(panel, whereItStands(listed, log), [], { goals: GOALS, factors, kernel }).ways.filter((w) => w.id.startsWith('bar:'));
		expect(bars.length).toBeGreaterThan(0);
		for (const bar of bars) {
			const { life } = bar.plan!.holdDowns[bar.plan!.holdDowns.length - 1];
			expect(panel.runs.slice(1).map((r) => `before-run:${r.id}`)).toContain(life.on);
		}
	});
	deeply('a sheet that comes on later can still be set over: offered with its angle, until its own preset, tack or run is behind', () => {
		// three sheets in a row, the third put on when the first seam lies
		const panel = make('butt-panel', { widthsMm: [120, 100, 110], lengthMm: 220 });
		const [first, second] = panel.joints.map((j) => j.id);
		const last = panel.parts[2].id;
		// a coupon of the shop's gave the angle
		for (const j of panel.joints) j.response = { angularChangeRad: 0.05 };
		panel.fitUp.order = [
			{ id: 'pair', name: 'Pair', parts: panel.parts.slice(0, 2).map((p) => p.id) },
			{ id: 'third', name: 'Third sheet', parts: [last] }
		];
		panel.tacks.sort((p, q) => Number(p.joint === second) - Number(q.joint === second));
		panel.runs = orderPattern(panel, { pattern: 'straight-through', runLengthMm: 4000 });
		panel.runs.sort((p, q) => Number(p.joint === second) - Number(q.joint === second));
		const listed = benchPlan(panel).steps;
		const upTo = (stop: (s: BenchStep) => boolean) => [
			line('started'),
			...listed.slice(0, listed.findIndex(stop)).map((s) => line('step-done', s.id))
		];
		// what comes after the presets is the other tests'
		const planOn = (log: LogLine[]) => {
			let isPast = false;
			const tell = (phase: string) => void (isPast ||= phase.startsWith('Five sixths'));
			return replan(panel, whereItStands(listed, log), [], { goals: GOALS, factors, kernel, tell, stop: () => isPast });
		};
		const early = planOn(upTo((s) => s.kind === 'tack' && s.joint === second));
		const set = early.ways.find((w) => w.id === 'presets')!;
		const deg = set.plan!.joints.map((j) => j.presetDeg);
		expect(deg[0]).toBe(panel.joints.find((j) => j.id === first)!.presetDeg);
		expect(Math.abs(deg[1])).toBeGreaterThanOrEqual(0.25);
		expect(set.label).toContain(`${deg[1]}°`);
		expect(set.gain).toBeGreaterThan(0);
		valuesOf(set.plan!).forEach((v, k) => expect(set.ends[k].predicted).toBeCloseTo(v, 6));
		// the bench is asked to set it
		expect(benchPlan(set.plan!).steps.some((s) => s.kind === 'preset' && s.joint === second)).toBe(true);
		const late = planOn(upTo((s) => s.kind === 'run' && s.joint === second));
		expect(late.ways.map((w) => w.id)).not.toContain('presets');
	});
	it('a run stopped short is gone on with before anything else, whichever way is taken', () => {
		const next = plan.runs[found.laid];
		const middle = (next.fromMm + next.toMm) / 2;
		const short = [...half, line('laid', `run:${next.id}`, { data: { fromMm: next.fromMm, toMm: middle } })];
		const at = whereItStands(steps, short);
		const got = ask(short);
		expect(got.laid).toBe(found.laid + 1);
		for (const w of got.ways.slice(1)) {
			expect(w.plan!.runs[found.laid]).toEqual(next);
			expect(whereItStands(benchPlan(w.plan!).steps, short).current!.step).toMatchObject({ run: next.id });
		}
		expect(planFromHere(plan, at, plan.runs).runs.map((r) => r.id)).toEqual(plan.runs.map((r) => r.id));
	});
	it('stopped, it says what it has and that it was stopped; with nothing left it says so', () => {
		let asked = 0;
		const stopped = ask(half, { stop: () => asked++ > 1 });
		expect([stopped.stopped, stopped.ways[0].id]).toEqual([true, 'as-planned']);
		expect(() => ask(until(plan.runs.length))).toThrow(/No run is left/);
	});
});
