/** A hold locks what comes after it, for the page as for the server, until who must sign it has. */
import { describe, expect, it } from 'vitest';
import { benchPlan } from './benchPlan';
import { dataFaults } from './happenings';
import { holdFault } from './holdPoints';
import { blockers, free, mayLeave, whereItStands, type LogLine } from './logbook';
import { everything } from './testing';

const plan = everything();
const { steps } = benchPlan(plan);
const holds = steps.filter((s) => s.kind === 'sign');
const at = (id: string) => steps.findIndex((s) => s.id === id);
let n = 0;
const line = (kind: LogLine['kind'], step?: string, more: Partial<LogLine> = {}): LogLine => ({ clientId: `c${n}`, kind, step, at: n++, ...more });
const doneBefore = (id: string) => [
	line('started'),
	...steps.slice(0, at(id)).map((s) => line(s.kind === 'sign' ? 'hold-signed' : 'step-done', s.id))
];
const first = (kind: string) => holds.find((h) => h.of === kind)!;

describe('where work waits for a signature', () => {
	it('comes at its moment: tacked before the first run, looked at before the lid, swept before the root, at the very end', () => {
		const [firstRun, lid] = [steps.findIndex((s) => s.kind === 'run'), at('parts:lid')];
		const accepted = holds.filter((h) => h.of === 'fit-up').map((h) => at(h.id));
		// once for each step of the assembly that is tacked
		expect(accepted.length).toBeGreaterThan(1);
		expect(accepted[0]).toBeGreaterThan(steps.findIndex((s) => s.kind === 'measure' && s.moment === 'as-tacked'));
		expect(accepted[0]).toBeLessThan(firstRun);
		expect(at(first('inside').id)).toBeLessThan(lid);
		expect(steps[at(first('inside').id) - 1]).toMatchObject({ kind: 'look', at: 'before-closing' });
		expect(steps[at(first('purge').id) - 1].id).toBe('wait:purge');
		expect(steps[steps.length - 1].id).toBe(first('witness').id);
	});
	it('locks every step after it but turns and waits; nothing is left for later or done past it', () => {
		const hold = first('fit-up');
		const log = doneBefore(hold.id);
		const now = whereItStands(steps, log);
		expect([now.current!.step.id, mayLeave(hold), free(now.steps, now.current).length]).toEqual([hold.id, false, 0]);
		for (const s of steps.slice(at(hold.id) + 1))
			if (s.kind !== 'wait' && s.kind !== 'flip') expect(blockers(now.steps, s), s.id).toContainEqual(hold);
		// done is not signed, and a problem does not get past it
		for (const kind of ['step-done', 'step-problem'] as const)
			expect(whereItStands(steps, [...log, line(kind, hold.id)]).current!.step.id).toBe(hold.id);
		const signed = line('hold-signed', hold.id);
		expect(whereItStands(steps, [...log, signed]).current!.step.id).toBe(steps[at(hold.id) + 1].id);
		expect(whereItStands(steps, [...log, signed, line('undone', undefined, { about: signed.clientId })]).current!.step.id).toBe(hold.id);
	});
	it('a signature on what is no hold does nothing', () => {
		const run = steps.find((s) => s.kind === 'run')!;
		for (const kind of ['hold-signed', 'hold-released'] as const)
			expect(whereItStands(steps, [line('started'), line(kind, run.id)]).steps.find((s) => s.step === run)!.state).toBe('open');
	});
	it('what is still open before it stands in its way', () => {
		const hold = first('fit-up');
		const open = doneBefore(hold.id).filter((l) => l.step !== 'earth');
		expect(whereItStands(steps, open).current!.step.id).toBe('earth');
	});
});

describe('what the server takes at a hold', () => {
	const hold = first('fit-up');
	const stands = doneBefore(hold.id);
	const next = steps.slice(at(hold.id) + 1).find((s) => s.kind !== 'wait' && s.kind !== 'flip')!;
	const fault = (l: Partial<LogLine>, roles: string[], more: LogLine[] = [], about?: LogLine) =>
		holdFault(steps, [...stands, ...more], line(l.kind!, l.step ?? undefined, l), roles, about);
	it('a signature by who must sign, a release by a planner with a reason, and nothing after it until then', () => {
		expect(fault({ kind: 'hold-signed', step: hold.id }, ['inspector'])).toBeUndefined();
		expect(fault({ kind: 'hold-signed', step: hold.id }, ['welder', 'planner'])).toMatch(/signed by an inspector/);
		expect(fault({ kind: 'hold-released', step: hold.id, note: 'Inspector is ill' }, ['planner'])).toBeUndefined();
		expect(fault({ kind: 'hold-released', step: hold.id, note: ' ' }, ['planner'])).toMatch(/Say why/);
		expect(fault({ kind: 'hold-released', step: hold.id, note: 'No time' }, ['welder'])).toMatch(/by a planner/);
		expect(fault({ kind: 'step-done', step: hold.id }, ['inspector', 'welder'])).toMatch(/is signed, not done/);
		for (const kind of ['step-done', 'laid', 'step-problem'] as const)
			expect(fault({ kind, step: next.id }, ['welder'])).toMatch(/is not signed yet/);
		expect(fault({ kind: 'step-done', step: next.id }, ['welder'], [line('hold-signed', hold.id)])).toBeUndefined();
		expect(fault({ kind: 'step-done', step: next.id }, ['welder'], [line('hold-released', hold.id)])).toBeUndefined();
		// a note, a reading of the metal and what was tapped before it are taken
		expect(fault({ kind: 'note', step: next.id }, ['welder'])).toBeUndefined();
		expect(fault({ kind: 'step-done', step: steps[0].id }, ['welder'])).toBeUndefined();
		// a later hold does not jump an open one
		expect(fault({ kind: 'hold-signed', step: first('witness').id }, ['inspector'])).toMatch(/is not signed yet/);
		expect(fault({ kind: 'hold-signed', step: next.id }, ['inspector'])).toMatch(/no such hold/);
	});
	it('no signature while something before it is open, left for later or not; what is a problem there is behind it', () => {
		const open = steps.slice(0, at(hold.id)).filter((s) => s.kind === 'tack')[1];
		const without = stands.filter((l) => l.step !== open.id);
		const sign = (more: LogLine[] = []) => holdFault(steps, [...without, ...more], line('hold-signed', hold.id), ['inspector']);
		expect(sign()).toContain(`“${open.title}” is still open`);
		expect(sign([line('step-skipped', open.id)])).toContain('is still open');
		expect(sign([line('step-problem', open.id, { note: 'Left out: the part is short' })])).toBeUndefined();
		// nor is it let go by a planner before its turn
		expect(holdFault(steps, without, line('hold-released', hold.id, { note: 'No time' }), ['planner'])).toContain('is still open');
	});
	it('what was signed as done is not taken back under the signature', () => {
		const tap = stands.find((l) => l.step === steps[at(hold.id) - 1].id)!;
		const undo = { kind: 'undone' as const, about: tap.clientId };
		expect(fault(undo, ['welder'], [], tap)).toBeUndefined();
		expect(fault(undo, ['welder'], [line('hold-signed', hold.id)], tap)).toMatch(/take the signature back first/);
		// what came after it is
		const later = line('step-done', next.id);
		expect(fault({ kind: 'undone', about: later.clientId }, ['welder'], [line('hold-signed', hold.id), later], later)).toBeUndefined();
	});
	it('only who may sign it takes a signature back', () => {
		const signed = line('hold-signed', hold.id);
		const undo = { kind: 'undone' as const, about: signed.clientId };
		expect(fault(undo, ['welder'], [signed], signed)).toMatch(/taken back by an inspector/);
		expect(fault(undo, ['inspector'], [signed], signed)).toBeUndefined();
		const tap = line('step-done', steps[0].id);
		expect(fault({ kind: 'undone', about: tap.clientId }, ['welder'], [tap], tap)).toBeUndefined();
	});
	it('what is recorded with it belongs to its kind: oxygen or minutes for a purge, a name for a witness', () => {
		const faults = (of: string, data?: object) => dataFaults('hold-signed', data, first(of).id, plan).map((f) => `${f.field} ${f.allowed}`);
		expect(faults('purge', { oxygenPct: 0.05 })).toEqual([]);
		expect(faults('purge', { minutes: 12 })).toEqual([]);
		expect(faults('purge')).toEqual(['data.oxygenPct give oxygen, % or minutes']);
		expect(faults('purge', { minutes: 12, witness: 'Somebody' })).toEqual(['data.witness does not belong to this entry']);
		expect(faults('witness', { witness: 'R. Somebody' })).toEqual([]);
		expect(faults('witness', {})).toEqual(['data.witness give who came']);
		expect(faults('fit-up')).toEqual([]);
	});
});
