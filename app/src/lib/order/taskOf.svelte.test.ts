import { describe, expect, it, vi } from 'vitest';
import type { PlanDesk } from '$lib/desk/plan-desk.svelte';
import { freshPage } from '$lib/desk/testing';
import type { TaskState } from '$lib/task-watch.svelte';
import { TaskOf } from './taskOf.svelte';

const at = freshPage();
const turn = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
type Part = { cost: number };
const state = (s: TaskState<Part>['state'], progress = 0, partial: Part | null = null): { task: TaskState<Part> } => ({
	task: { id: 't1', state: s, progress, message: s === 'failed' ? 'It did not work.' : '', attempts: 1, partial }
});
/** the part of the desk that a task reads */
function deskWith(saving: 'saved' | 'waiting' = 'saved') {
	const desk = { jobId: 'job-1', revision: 2, version: 5, doc: { name: 'now' }, saving, save: vi.fn(async () => {}) };
	return desk as unknown as PlanDesk & typeof desk;
}

describe('a task as a page follows it', () => {
	it('is started on the plan as saved, watched with what it has so far, and its answer fetched once', async () => {
		const desk = deskWith('waiting');
		const t = new TaskOf<Part, { rows: number[] }>(desk, 'order-search');
		at.server.answer(200, state('queued'));
		await t.start({ full: true });
		expect(desk.save).toHaveBeenCalledOnce();
		expect(at.server.calls[0]).toEqual({
			method: 'POST',
			path: '/api/jobs/job-1/tasks',
			body: { revision: 2, version: 5, kind: 'order-search', full: true }
		});
		expect([t.isBusy, t.isCurrent]).toEqual([true, false]);
		at.server.answer(200, state('running', 0.4, { cost: 3 }));
		await turn(1000);
		expect([t.task?.progress, t.task?.partial?.cost, t.isBusy]).toEqual([0.4, 3, true]);
		at.server.answer(200, state('done', 1));
		at.server.answer(200, { rows: [1, 2] });
		await turn(1000);
		expect([t.isBusy, t.isCurrent, t.result]).toEqual([false, true, { rows: [1, 2] }]);
		await turn(60_000);
		expect(at.server.calls).toHaveLength(4);
	});
	it('an answer is no longer current once the plan has been edited', async () => {
		const desk = deskWith();
		const t = new TaskOf<Part, object>(desk, 'presets');
		at.server.answer(200, state('done', 1));
		at.server.answer(200, {});
		await t.start({});
		await turn();
		expect(t.isCurrent).toBe(true);
		desk.doc = { name: 'edited' } as never;
		expect(t.isCurrent).toBe(false);
		expect(t.result).toEqual({});
	});
	it('a reload takes up what the server has, and knows when it is of an older plan', async () => {
		const t = new TaskOf<Part, object>(deskWith(), 'hold-advice');
		at.server.answer(200, { ...state('done', 1), ofThisPlan: false });
		at.server.answer(200, { sets: [] });
		await t.look();
		await turn();
		expect(at.server.calls[0].path).toBe('/api/jobs/job-1/tasks?kind=hold-advice');
		expect([t.result, t.isCurrent, t.isOld]).toEqual([{ sets: [] }, false, true]);
	});
	it('a refusal names the fields; a failed task keeps its message; neither is asked again', async () => {
		const t = new TaskOf<Part, object>(deskWith(), 'order-search');
		at.server.answer(422, { message: 'These goals cannot be used.', faults: [{ field: 'time', value: -1, allowed: '0 to 1000' }] });
		await t.start({ goals: { time: -1 } });
		expect([t.message, t.isBusy]).toEqual(['These goals cannot be used. time: 0 to 1000', false]);
		at.server.answer(200, state('failed'));
		await t.start({});
		await turn(30_000);
		expect([t.message, t.task?.message, at.server.calls.length]).toEqual(['', 'It did not work.', 2]);
	});
	it('a lost poll is tried again; stopping asks the server and what was found is fetched; leaving ends the watch', async () => {
		const t = new TaskOf<Part, object>(deskWith(), 'order-search');
		at.server.answer(200, state('running'));
		await t.start({});
		at.server.answer(0, {});
		at.server.answer(200, state('running', 0.5));
		await turn(2000);
		expect(t.task?.progress).toBe(0.5);
		at.server.answer(200, state('cancelled', 0.6));
		await t.stop();
		expect(at.server.calls[3]).toMatchObject({ method: 'POST', path: '/api/tasks/t1/cancel' });
		at.server.answer(200, state('cancelled', 0.6));
		at.server.answer(200, { rows: ['kept'] });
		await turn(1000);
		expect(t.result).toEqual({ rows: ['kept'] });

		const left = new TaskOf<Part, object>(deskWith(), 'order-search');
		at.server.answer(200, state('running'));
		await left.start({});
		left.end();
		const before = at.server.calls.length;
		await turn(30_000);
		expect(at.server.calls).toHaveLength(before);
	});
});
