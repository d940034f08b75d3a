/** An arc that went out, as taps on the step in hand. */
import { describe, expect, it } from 'vitest';
import type { Arc } from '../devices/arcLog';
import { arcEnergy } from '../heat/arcEnergy';
import { benchPlan } from './benchPlan';
import { dataFaults } from './happenings';
import { whereItStands, type LogLine, type StepNow } from './logbook';
import { asRun } from './asRun';
import { everything } from './testing';
import { arcOut } from './arcOut';

const plan = everything();
const { steps } = benchPlan(plan);
const first = steps.find((s) => s.kind === 'run')!;
if (first.kind !== 'run') throw new Error('no run');
const settings = plan.settings.find((s) => s.id === first.settings)!;
const heat = arcEnergy(settings);
const arcS = Math.abs(first.toMm - first.fromMm) / settings.speedMmPerS;
const arc = (share: number, more: Partial<Arc> = {}): Arc => ({
	id: 'f0000000-0000-4000-8000-000000000000',
	from: 0,
	to: 0,
	arcS: arcS * share,
	...more
});
let n = 0;
const line = (kind: LogLine['kind'], step?: string, more: Partial<LogLine> = {}): LogLine => ({ clientId: `c${n}`, kind, step, at: n++, ...more });
const before = [line('started'), ...steps.slice(0, steps.indexOf(first)).map((s) => line(s.kind === 'sign' ? 'hold-signed' : 'step-done', s.id))];
const at = (more: LogLine[] = []): StepNow => whereItStands(steps, [...before, ...more]).current!;

describe('an arc that went out', () => {
	it('is the whole run: two lines the server takes, and the plan as run has its heat', () => {
		const out = arcOut(arc(1.25, { ampsA: heat.meanAmps * 1.1, volts: heat.volts }), at(), plan, 'Log 1 (simulated)')!;
		expect(out.taps.map((t) => t.kind)).toEqual(['happened', 'step-done']);
		expect(new Set(out.taps.map((t) => t.clientId)).size).toBe(2);
		expect(out.said).toMatch(/25 % longer.*hotter than planned/);
		for (const t of out.taps) expect(dataFaults(t.kind, t.data, first.id, plan)).toEqual([]);
		const lines = [...before, ...out.taps.map((t) => line(t.kind, first.id, { data: t.data }))];
		const run = asRun(plan, whereItStands(steps, lines)).plan;
		const laid = arcEnergy(run.settings.find((s) => s.id === run.runs[0].settings)!);
		// 1.1 times the amps for 1.25 times as long
		expect(laid.arcEnergy / heat.arcEnergy).toBeCloseTo(1.375, 2);
	});
	it('is a part where it went out early, and the rest where that follows', () => {
		const out = arcOut(arc(0.5), at(), plan, 'Log 1')!;
		expect(out.taps.map((t) => t.kind)).toEqual(['happened', 'laid']);
		const half = line('laid', first.id, { data: out.taps[1].data });
		const rest = arcOut(arc(0.5), at([half]), plan, 'Log 1')!;
		const end = whereItStands(steps, [...before, half, line('laid', first.id, { data: rest.taps[1].data })]);
		expect(end.steps.find((s) => s.step === first)!.state).toBe('done');
	});
	it('where no run is in hand it taps nothing: a long one is told, a tack is not', () => {
		const tack = whereItStands(steps, before.slice(0, 1 + steps.findIndex((s) => s.kind === 'tack'))).current!;
		expect(tack.step.kind).toBe('tack');
		expect(arcOut(arc(1), tack, plan, 'Log 1')).toBeUndefined();
		const check = whereItStands(steps, before.slice(0, 1)).current!;
		expect(check.step.kind).not.toBe('run');
		expect(arcOut(arc(1), check, plan, 'Log 1')).toMatchObject({ taps: [], said: expect.stringMatching(/take that one next/) });
	});
});
