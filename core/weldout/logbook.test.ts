/** Where a piece stands after any taps: what is next is never what the plan forbids, nothing is lost, and a tap taken back leaves no trace but its lines. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenRule, putInAssemblyOrder } from '../sequence/precedence';
import { benchPlan } from './benchPlan';
import { blockers, free, mayLeave, mayTakeBack, whereItStands, type LogLine, type StepNow } from './logbook';
import { everything, make } from './testing';

const tank = everything();
const { steps } = benchPlan(tank);
let n = 0;
const line = (kind: LogLine['kind'], step?: string, more: Partial<LogLine> = {}): LogLine => ({ clientId: `c${n}`, kind, step, at: n++, ...more });
const done = (s: StepNow) => line(s.step.kind === 'sign' ? 'hold-signed' : 'step-done', s.step.id);
const ids = (list: readonly StepNow[]) => list.map((s) => s.step.id);
const run = (number: number) => steps.find((s) => s.kind === 'run' && s.number === number)! as Extract<(typeof steps)[number], { kind: 'run' }>;

/** One joint takes up the error of the rest: its runs come after all others. */
function adjusted() {
	const plan = make('open-trough');
	plan.fitUp.adjustingJoint = plan.joints[1].id;
	putInAssemblyOrder(plan);
	return plan;
}

/** Everything done in turn until a step is next. */
function until(id: string, from: LogLine[] = [line('started')], list = steps): LogLine[] {
	const log = [...from];
	for (let at = whereItStands(list, log).current; at && at.step.id !== id; at = whereItStands(list, log).current) log.push(done(at));
	return log;
}

describe('where a piece stands', () => {
	it('done in turn, the steps come in the plan’s own order, each once', () => {
		const log = until('none');
		expect(log.slice(1).map((l) => l.step)).toEqual(steps.map((s) => s.id));
		const end = whereItStands(steps, log);
		expect([end.current, end.steps.every((s) => s.state === 'done')]).toEqual([undefined, true]);
	});
	it('a tap taken back: the step is open again, and the log holds both lines', () => {
		const log = until(`run:${run(2).run}`);
		const before = whereItStands(steps, log);
		const tap = done(before.current!);
		const after = whereItStands(steps, [...log, tap]);
		expect(after.current!.step.id).not.toBe(tap.step);
		expect(after.last).toBe(tap);
		const back = whereItStands(steps, [...log, tap, line('undone', undefined, { about: tap.clientId })]);
		expect([back.current, back.steps, back.lines]).toEqual([before.current, before.steps, before.lines]);
		// the same step done anew stands
		expect(whereItStands(steps, [...log, tap, line('undone', undefined, { about: tap.clientId }), done(before.current!)]).current).toEqual(
			after.current
		);
	});
	it('a run left for later is passed over and comes back by itself, at the latest before what shuts it in', () => {
		const log = until(`run:${run(1).run}`);
		log.push(line('step-skipped', `run:${run(1).run}`));
		const now = whereItStands(steps, log);
		expect(now.current!.step.id).not.toBe(`run:${run(1).run}`);
		const rest = until('parts:lid', log);
		const seen = rest.slice(log.length).map((l) => l.step);
		expect(seen).toContain(`run:${run(1).run}`);
		expect(seen.indexOf(`run:${run(1).run}`)).toBeGreaterThan(seen.indexOf(`run:${run(2).run}`));
		expect(whereItStands(steps, rest).current!.step.id).toBe('parts:lid');
	});
	it('another run is taken next, with the wait that belongs to it before it; what its own step of the assembly forbids is not on offer', () => {
		const log = until(`run:${run(1).run}`);
		const now = whereItStands(steps, log);
		const offered = free(now.steps, now.current);
		const lidRuns = tank.runs.filter((r) => r.joint.startsWith('lid')).map((r) => `run:${r.id}`);
		expect(ids(offered).filter((id) => lidRuns.includes(id))).toEqual([]);
		const other = offered.filter((s) => s.step.kind === 'run').at(-1)!;
		const taken = whereItStands(steps, [...log, line('step-taken', other.step.id)]);
		const waits = steps.filter((s) => s.kind === 'wait' && other.step.kind === 'run' && s.before === other.step.run);
		expect([other.step.id, ...waits.map((s) => s.id)]).toContain(taken.current!.step.id);
		expect(
			blockers(
				now.steps,
				steps.find((s) => s.id === 'parts:lid')!
			).length
		).toBeGreaterThan(3);
	});
	it('a run stopped short leaves its rest, laid the other way it is laid, in stretches it is done when no length is left', () => {
		const r = run(1);
		const log = until(`run:${r.run}`);
		const [from, to] = [r.fromMm, r.toMm];
		const at = (f: number) => from + f * (to - from);
		const state = (...laid: [number, number][]) =>
			whereItStands(steps, [...log, ...laid.map(([a, b]) => line('laid', `run:${r.run}`, { data: { fromMm: a, toMm: b } }))]).steps.find(
				(s) => s.step.id === `run:${r.run}`
			)!;
		const short = state([from, at(0.4)]);
		expect([short.state, short.rest![0].map((x) => +x.toFixed(6))]).toEqual(['open', [at(0.4), to].map((x) => +x.toFixed(6))]);
		expect(state([to, from]).state).toBe('done');
		expect(state([from, at(0.4)], [to, at(0.4)]).state).toBe('done');
		const middle = state([at(0.3), at(0.5)]);
		// both ends are left, the longer one first, and neither is forgotten when the other lies
		const near = (list: readonly (readonly number[])[] | undefined) => list?.map((x) => x.map((v) => +v.toFixed(6)));
		expect(near(middle.rest)).toEqual(
			near([
				[at(0.5), to],
				[from, at(0.3)]
			])
		);
		const one = state([at(0.3), at(0.5)], [at(0.5), to]);
		expect([one.state, near(one.rest)]).toEqual(['open', near([[from, at(0.3)]])]);
		expect(state([at(0.3), at(0.5)], [at(0.5), to], [from, at(0.3)]).state).toBe('done');
	});
	it('turned for a run out of its turn, the piece is not asked to be turned the same way again', () => {
		const frame = make('enclosure');
		const list = benchPlan(frame).steps;
		const flips = list.filter((s) => s.kind === 'flip');
		if (!flips.length) throw new Error('this piece is never turned: take another');
		const log = [line('started')];
		for (let at = whereItStands(list, log).current!; at.step.kind !== 'flip'; at = whereItStands(list, log).current!) log.push(done(at));
		const [flip] = flips;
		const later = list.find((s) => s.kind === 'run' && s.lies === flip.up && s.id !== `run:${flip.before}`)!;
		log.push(line('step-done', later.id));
		const now = whereItStands(list, log);
		expect([now.steps.find((s) => s.step === flip)!.state, now.lies]).toEqual(['needless', flip.up]);
	});
	it.each([
		['a lidded tank', tank],
		['a trough whose joint is left until last', adjusted()]
	] as const)(
		'%s, whatever is tapped: what is next is allowed, the order run keeps the plan’s rules, and taking back undoes exactly that',
		{ timeout: 60_000 },
		(_, plan) => {
			const { steps } = benchPlan(plan);
			fc.assert(
				fc.property(fc.array(fc.record({ what: fc.integer({ min: 0, max: 9 }), pick: fc.nat(1000) }), { maxLength: 160, size: 'max' }), (acts) => {
					const log: LogLine[] = [line('started')];
					for (const { what, pick } of acts) {
						const now = whereItStands(steps, log);
						if (!now.current) break;
						const { step } = now.current;
						expect(blockers(now.steps, step)).toEqual([]);
						const offers = free(now.steps, now.current);
						if (what < 5) log.push(done(now.current));
						else if (what === 5 && mayLeave(step)) log.push(line('step-skipped', step.id));
						else if (what === 6 && offers.length) log.push(line('step-taken', offers[pick % offers.length].step.id));
						else if (what === 7 && step.kind === 'run' && now.current.rest === undefined)
							log.push(line('laid', step.id, { data: { fromMm: step.fromMm, toMm: (step.fromMm + step.toMm) / 2 } }));
						else if (what === 8 && now.last) {
							expect(mayTakeBack(now.last.kind)).toBe(true);
							const without = log.filter((l) => l !== now.last);
							log.push(line('undone', undefined, { about: now.last.clientId }));
							const [a, b] = [whereItStands(steps, log), whereItStands(steps, without)];
							expect([a.current, a.steps, a.lies]).toEqual([b.current, b.steps, b.lies]);
						} else log.push(done(now.current));
					}
					const whole = until('none', log, steps);
					const end = whereItStands(steps, whole);
					expect(end.steps.filter((s) => s.state === 'open')).toEqual([]);
					// in the order in which each run was last worked on
					const at = new Map(end.lines.filter((l) => l.kind === 'step-done' || l.kind === 'laid').map((l, i) => [l.step, i]));
					const runs = [...plan.runs].sort((p, q) => at.get(`run:${p.id}`)! - at.get(`run:${q.id}`)!);
					expect(brokenRule({ ...plan, runs })).toBeUndefined();
				}),
				{ numRuns: 60, seed: 7 }
			);
		}
	);
});
