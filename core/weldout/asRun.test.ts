import { describe, expect, it } from 'vitest';
import { arcEnergy } from '../heat/arcEnergy';
import { settingsOf } from '../forecast/schedule';
import { planFaults } from '../reading/readPlan';
import { asRun } from './asRun';
import { benchPlan } from './benchPlan';
import { issuedAndRun } from './issuedAndRun';
import { whereItStands, type LogLine } from './logbook';
import { make } from './testing';

const plan = make('open-trough');
const { steps } = benchPlan(plan);
const [first, second, third] = plan.runs;
let n = 0;
const line = (kind: LogLine['kind'], step?: string, more: Partial<LogLine> = {}): LogLine => ({
	clientId: `c${n}`,
	kind,
	step,
	at: 1000 * n++,
	...more
});
const ran = (log: LogLine[]) => asRun(plan, whereItStands(steps, [line('started'), ...log]));
const mid = (first.fromMm + first.toMm) / 2;

describe('the plan as run', () => {
	it('nothing done: it is the plan as issued', () => {
		const { plan: same, endedAt } = ran([]);
		expect([same.runs, same.tacks, same.settings, endedAt]).toEqual([plan.runs, plan.tacks, plan.settings, []]);
	});
	it('out of order, split and the other way: as it was laid, and what is left of it stays open', () => {
		const log = [
			line('step-done', `run:${second.id}`),
			line('laid', `run:${first.id}`, { data: { fromMm: first.fromMm, toMm: mid } }),
			line('laid', `run:${third.id}`, { data: { fromMm: third.toMm, toMm: third.fromMm } })
		];
		const { plan: as, endedAt } = ran(log);
		expect(as.runs.slice(0, 3).map((r) => [r.id, r.fromMm, r.toMm])).toEqual([
			[second.id, second.fromMm, second.toMm],
			[first.id, first.fromMm, mid],
			[third.id, third.toMm, third.fromMm]
		]);
		expect(as.runs.find((r) => r.id === `${first.id}.2`)).toMatchObject({ fromMm: mid, toMm: first.toMm, joint: first.joint });
		expect(as.runs).toHaveLength(plan.runs.length + 1);
		expect(endedAt).toEqual(log.map((l) => l.at));
		// it is a plan like any other
		expect(planFaults(as)).toEqual([]);
		// taken back, it was never laid
		const back = ran([...log, line('undone', undefined, { about: log[1].clientId })]);
		expect(back.plan.runs.filter((r) => r.id.startsWith(first.id))).toEqual([first]);
	});
	it('hotter and slower than planned: its own settings, its own heat, and nobody else’s', () => {
		const planned = settingsOf(plan, first);
		const log = [
			line('happened', `run:${first.id}`, { data: { what: 'as-set', currentA: 1.2 * planned.ampsA, speedMmPerS: 0.8 * planned.speedMmPerS } }),
			line('step-done', `run:${first.id}`)
		];
		const { plan: as } = ran(log);
		const own = settingsOf(as, as.runs[0]);
		expect(own).toMatchObject({ ampsA: 1.2 * planned.ampsA, speedMmPerS: 0.8 * planned.speedMmPerS });
		// volts estimated from the current rise with it
		expect(arcEnergy(own).netHeat / arcEnergy(planned).netHeat).toBeGreaterThan(1.5);
		expect(settingsOf(as, as.runs[1])).toEqual(settingsOf(plan, second));
		expect(planFaults(as)).toEqual([]);
	});
	it('a tack broken is gone, one set anew is there again, one added is one more', () => {
		const [t] = plan.tacks;
		const at = (stationMm: number, what: 'tack-broken' | 'tack-set') => line('happened', 'check:a', { data: { what, joint: t.joint, stationMm } });
		expect(ran([at(t.stationMm + 2, 'tack-broken')]).plan.tacks).toEqual(plan.tacks.slice(1));
		const again = ran([at(t.stationMm, 'tack-broken'), at(t.stationMm, 'tack-set')]).plan;
		expect(
			again.tacks
				.filter((x) => x.joint === t.joint)
				.map((x) => x.stationMm)
				.sort((a, b) => a - b)
		).toEqual(
			plan.tacks
				.filter((x) => x.joint === t.joint)
				.map((x) => x.stationMm)
				.sort((a, b) => a - b)
		);
		const own = plan.tacks.filter((x) => x.joint === t.joint).map((x) => x.stationMm);
		const free = Array.from({ length: 100 }, (_, i) => i).find((s) => own.every((o) => Math.abs(o - s) > 7))!;
		const added = ran([at(free, 'tack-set')]).plan;
		expect(added.tacks).toHaveLength(plan.tacks.length + 1);
		expect(planFaults(added)).toEqual([]);
	});
});

describe('issued beside run', () => {
	const beside = (log: LogLine[]) => issuedAndRun(plan, whereItStands(steps, [line('started'), ...log]), (mm) => `${mm.toFixed(0)} mm`);
	const all = () => plan.runs.map((r) => line('step-done', `run:${r.id}`));
	it('all as issued: nothing stands out', () => {
		const { runs, tacks } = beside(all());
		expect(runs.flatMap((r) => r.otherwise)).toEqual([]);
		expect(runs.map((r) => r.run)).toEqual(runs.map((r) => r.issued));
		expect(tacks).toEqual({ issued: plan.tacks.length, now: plan.tacks.length });
	});
	it('what went otherwise is named: order, ends, stretches, settings, a tack, and what was never laid', () => {
		const planned = settingsOf(plan, third);
		const log = [
			line('step-done', `run:${second.id}`),
			line('laid', `run:${first.id}`, { data: { fromMm: first.fromMm, toMm: mid } }),
			line('laid', `run:${first.id}`, { data: { fromMm: mid, toMm: first.toMm } }),
			line('happened', `run:${third.id}`, { data: { what: 'as-set', currentA: 1.2 * planned.ampsA } }),
			line('laid', `run:${third.id}`, { data: { fromMm: third.toMm, toMm: third.fromMm } }),
			line('happened', undefined, { data: { what: 'tack-broken', joint: plan.tacks[0].joint, stationMm: plan.tacks[0].stationMm } })
		];
		const { runs, tacks } = beside(log);
		const of = (id: string) => runs[plan.runs.findIndex((r) => r.id === id)];
		expect(of(first.id).otherwise).toEqual(['laid in 2 stretches', 'laid as number 2, for 1']);
		expect(of(second.id).otherwise).toEqual(['laid as number 1, for 2']);
		expect(of(third.id).otherwise).toEqual(['other ends', 'set otherwise']);
		expect(of(third.id).run).toContain(`${Math.round(arcEnergy(settingsOf({ ...plan }, third)).meanAmps * 1.2)} A`);
		expect(of(plan.runs[3].id)).toMatchObject({ run: '', otherwise: ['not laid'] });
		expect(tacks.now).toBe(plan.tacks.length - 1);
	});
});
