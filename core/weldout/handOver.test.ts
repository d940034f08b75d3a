import { describe, expect, it } from 'vitest';
import { newPlan } from '../families/newPlan';
import { FAMILY_DEFAULTS } from '../families';
import { benchPlan } from './benchPlan';
import { dataFaults, dataWords, LOOKED } from './happenings';
import { handOver, judge, readBeforeCold, type Read } from './handOver';
import type { LogLine } from './logbook';

const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
const { steps } = benchPlan(plan);
const HOUR = 3_600_000;
const all: LogLine[] = steps.map((s, i) => ({ clientId: s.id, kind: 'step-done', step: s.id, at: i }));
const read = (more: Partial<Read> = {}): Read => ({
	feature: plan.features[0].id,
	moment: 'unclamped',
	value: 0,
	uncertainty90: 0.05,
	at: HOUR,
	...more
});
const every = (more: Partial<Read> = {}) => plan.features.map((f) => read({ feature: f.id, ...more }));

describe('handing over', () => {
	it('everything done, read and closed: nothing is missing', () => {
		expect(handOver(plan, steps, all, every())).toMatchObject({ missing: [], outside: [], open: [] });
	});
	it('each step that is left out is missed, and by its title', () => {
		for (const s of [steps[0], steps[steps.length - 1]]) {
			const { missing } = handOver(
				plan,
				steps,
				all.filter((e) => e.step !== s.id),
				every()
			);
			expect(missing).toEqual([`One step is not behind it: ${s.title}`]);
		}
	});
	it('a step passed with a problem is behind it; the problem stays open until it is closed', () => {
		const problem: LogLine = { clientId: 'p', kind: 'step-problem', step: steps[3].id, note: 'gap', at: 3 };
		const events = [...all.filter((e) => e.step !== steps[3].id), problem];
		expect(handOver(plan, steps, events, every()).missing).toEqual(['One problem is still open: say what became of it']);
		const closed: LogLine = { clientId: 'c', kind: 'problem-closed', about: 'p', note: 'filled', at: HOUR };
		expect(handOver(plan, steps, [...events, closed], every()).missing).toEqual([]);
	});
	it('cold readings after the last change decide, put together; in the free state they go before those still held, an inspector’s before others', () => {
		const f = plan.features[0];
		const value = (readings: Read[], changed = 0) => judge(f, readings, changed).value;
		// the same rule read twice: their middle, as uncertain as they lie apart
		const twice = judge(f, [read({ value: 1, method: 'tape' }), read({ value: 2, method: 'tape', at: HOUR + 1 })], 0);
		expect(twice).toMatchObject({ value: 1.5, count: 2, disagree: true });
		expect(twice.uncertainty90).toBeCloseTo(0.5, 9);
		// two ways: each by how well it is known (weights 1 and 4)
		const ways = judge(
			f,
			[read({ value: 1, method: 'tape', uncertainty90: 0.8 }), read({ value: 1.5, method: 'calliper', uncertainty90: 0.4, at: HOUR + 1 })],
			0
		);
		expect(ways.value).toBeCloseTo(1.4, 9);
		expect(ways.disagree).toBeUndefined();
		expect(value([read({ value: 1, byInspector: true }), read({ value: 2, at: HOUR + 1 })])).toBe(1);
		expect(value([read({ value: 1, posture: 'flat-on-bench' }), read({ value: 2, posture: 'three-points', at: HOUR + 1 })])).toBe(2);
		expect(value([read({ value: 1 }), read({ value: 2, moment: 'cold', at: HOUR + 1 })])).toBe(1);
		// still held is better than nothing
		expect(value([read({ value: 1, moment: 'cold' })])).toBe(1);
		expect(value([read({ value: 1, moment: 'cold' }), read({ value: 3, moment: 'cold', at: HOUR + 1 })])).toBe(2);
		expect(value([read({ value: 1, metalC: 90 })])).toBeUndefined();
		expect(value([read({ value: 1 })], HOUR + 1)).toBeUndefined();
		expect(judge(f, [read({ moment: 'as-tacked' })], 0).missing).toBe('not measured since it was welded');
		expect(judge(f, [], 0).missing).toBe('not measured');
	});
	it('read after the last arc and before the clock has it cold, with no temperature told: named; told, or cold by then, or before that arc: not', () => {
		const named = (more: Partial<Read>, lastArcAt = HOUR - 60_000, coolAt = HOUR + 1000) =>
			readBeforeCold(handOver(plan, steps, all, [...every({ metalC: 22 }).slice(1), read(more)]).judged, lastArcAt, coolAt);
		expect(named({})).toEqual([plan.features[0].id]);
		expect(named({ metalC: 24 })).toEqual([]);
		expect(named({ at: HOUR + 1000 })).toEqual([]);
		// what a lid has shut in was read before the arc that closed it
		expect(named({}, HOUR + 1)).toEqual([]);
	});
	it('a later problem at a run counts as a change; one at a check does not', () => {
		const run = steps.findLast((s) => s.kind === 'run')!;
		const check = steps.find((s) => s.kind === 'check')!;
		const again = (step: string): LogLine => ({ clientId: 'x', kind: 'step-problem', step, at: 2 * HOUR });
		const missing = (step: string) => handOver(plan, steps, [...all, again(step)], every()).judged[0].missing;
		expect(missing(run.id)).toMatch(/last changed/);
		expect(missing(check.id)).toBeUndefined();
	});
	it('what a lid shuts in is read before the lid comes on: later runs do not make it old', () => {
		const made = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], body: 'five-plates', rimFlangeMm: 0, lid: true }).plan!;
		const lid = made.joints.filter((j) => j.id.startsWith('lid')).map((j) => j.id);
		made.fitUp.order = [
			{ id: 'shell', name: 'Shell', parts: made.parts.filter((p) => p.id !== 'lid').map((p) => p.id) },
			{ id: 'lid', name: 'Lid', parts: ['lid'] }
		];
		made.tacks = [...made.tacks.filter((t) => !lid.includes(t.joint)), ...made.tacks.filter((t) => lid.includes(t.joint))];
		made.runs = [...made.runs.filter((r) => !lid.includes(r.joint)), ...made.runs.filter((r) => lid.includes(r.joint))];
		const list = benchPlan(made).steps;
		const shut = list.findLastIndex((s) => s.kind === 'measure' && s.features.includes('mouth-width'));
		expect(list.slice(shut).some((s) => s.kind === 'run')).toBe(true);
		const log: LogLine[] = list.map((s, i) => ({ clientId: s.id, kind: 'step-done', step: s.id, at: 10 * i }));
		const at = (feature: string) => (feature === 'mouth-width' ? 10 * shut + 1 : 10 * list.length);
		const readings = made.features.map((f) => read({ feature: f.id, at: at(f.id) }));
		expect(handOver(made, list, log, readings).missing.filter((m) => m.includes('width'))).toEqual([]);
		// before the last run that comes before it, it is old all the same
		const early = readings.map((r) => (r.feature === 'mouth-width' ? { ...r, at: 5 } : r));
		expect(handOver(made, list, log, early).missing.join()).toMatch(/width.*last changed/);
	});
	it('outside is by the feature’s own limits, either side', () => {
		const f = plan.features.find((x) => x.tolerance.lower !== undefined)!;
		const names = (value: number) =>
			handOver(plan, steps, all, [...every().filter((r) => r.feature !== f.id), read({ feature: f.id, value, at: HOUR + 1 })]).outside;
		expect(names(f.tolerance.upper + 0.01)).toEqual([f.name]);
		expect(names(f.tolerance.lower! - 0.01)).toEqual([f.name]);
		expect(names(f.tolerance.upper)).toEqual([]);
	});
	it('near its limit a reading leaves it in doubt: told where it counts as read, a concession where the job asks for proof', () => {
		const f = plan.features.find((x) => x.tolerance.lower !== undefined)!;
		const at = (value: number, decision?: 'guard-band') =>
			handOver({ ...plan, decision }, steps, all, [
				...every().filter((r) => r.feature !== f.id),
				read({ feature: f.id, value, uncertainty90: 0.2, at: HOUR + 1 })
			]);
		const near = f.tolerance.upper - 0.1;
		expect([at(near).outside, at(near).unsure]).toEqual([[], [f.name]]);
		expect([at(near, 'guard-band').outside, at(near, 'guard-band').unsure]).toEqual([[f.name], [f.name]]);
		expect(at(f.tolerance.upper - 0.3, 'guard-band')).toMatchObject({ outside: [], unsure: [] });
		// beyond it, but not by more than it was read
		expect([at(f.tolerance.upper + 0.1).outside, at(f.tolerance.upper + 0.1).unsure]).toEqual([[f.name], [f.name]]);
		expect([at(f.tolerance.upper + 0.3).outside, at(f.tolerance.upper + 0.3).unsure]).toEqual([[f.name], []]);
	});
});

describe('what was read, in words', () => {
	const known = { joints: plan.joints, holdDowns: [], runs: plan.runs, holdPoints: [], parts: plan.parts, features: plan.features };
	const mm = (v: number, digits = 1) => `${v.toFixed(digits)} mm`;
	it('a gap and a wall keep the hundredth that was read, a wall beside what the drawing has; a station is rounded', () => {
		const [joint] = plan.joints;
		expect(dataWords({ what: 'gap-read', joint: joint.id, stationMm: 120.04, mm: 0.15 }, known, mm)).toBe(
			`Gap read along a seam on ${joint.name} at 120.0 mm, 0.15 mm`
		);
		const [part] = plan.parts;
		expect(dataWords({ what: 'wall-read', part: part.id, mm: 1.46 }, known, mm)).toBe(
			`Wall thickness read, 1.46 mm of ${part.thicknessMm.toFixed(2)} mm, ${part.name}`
		);
	});
	it('they are taken from whoever inspects, with their places, and refused without', () => {
		const faults = (data: object) => dataFaults('happened', data, undefined, known).map((f) => f.field);
		expect(faults({ what: 'gap-read', joint: plan.joints[0].id, stationMm: 10, mm: 0 })).toEqual([]);
		expect(faults({ what: 'gap-read', mm: 0.2 })).toEqual(['data.joint', 'data.stationMm']);
		expect(faults({ what: 'wall-read', part: 'nowhere', mm: 1 })).toEqual(['data.part']);
		expect(faults({ what: 'surface', surface: 'pickled', product: 'Paste', finish: 'brushed', minutes: 40 })).toEqual([]);
		expect(faults({ what: 'leak-tested', leak: 'tight', product: 'Paste' })).toEqual(['data.product']);
		expect(LOOKED).toContain('gap-read');
	});
});
