import { describe, expect, it, vi } from 'vitest';
import { BenchLog, type LogEvent } from './bench-log.svelte';
import { freshPage, keptInBrowser } from './testing';

const KEY = 'sarta-bench-piece-1';
const at = freshPage();
const turn = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
const sent = (i: number) => (at.server.calls[i].body as { events: LogEvent[] }).events;
const kept = () => JSON.parse(at.browser.get(KEY) ?? '[]') as LogEvent[];

describe('the bench log on a tablet', () => {
	it('an event is on the screen at once, in the browser before it is sent, and gone from there when the server has it', async () => {
		const log = new BenchLog('piece-1', []);
		const give = at.server.hold();
		log.add('started');
		expect(log.all.map((e) => e.kind)).toEqual(['started']);
		expect(kept()).toHaveLength(1);
		await turn();
		give(200, { events: sent(0) });
		await turn();
		expect(log.all.map((e) => e.kind)).toEqual(['started']);
		expect([log.unsent.length, kept().length, log.message]).toEqual([0, 0, '']);
	});
	it('without a network nothing is lost, the order is kept, and everything goes in one batch when it is back', async () => {
		const log = new BenchLog('piece-1', []);
		for (const status of [0, 0, 503]) at.server.answer(status, {});
		log.add('started');
		await turn();
		expect(log.message).toMatch(/kept on this device/);
		log.add('step-done', 'check:a');
		log.add('note', 'run:1', 'a gap');
		await turn(5000);
		expect(log.unsent).toHaveLength(3);
		const given = kept().map((e) => e.clientId);
		at.server.answer(200, { events: kept() });
		await turn(5000);
		const last = sent(at.server.calls.length - 1);
		expect(last.map((e) => e.clientId)).toEqual(given);
		expect(last.map((e) => [e.kind, e.step ?? null, e.note ?? null])).toEqual([
			['started', null, null],
			['step-done', 'check:a', null],
			['note', 'run:1', 'a gap']
		]);
		expect([log.unsent.length, log.all.length, log.message]).toEqual([0, 3, '']);
	});
	it('what is pressed while a batch is under way goes with the next one, once', async () => {
		const log = new BenchLog('piece-1', []);
		const give = at.server.hold();
		log.add('started');
		await turn();
		log.add('step-done', 'check:a');
		log.add('step-done', 'check:b');
		expect(at.server.calls).toHaveLength(1);
		const one = sent(0);
		give(200, { events: one });
		at.server.answer(200, { events: [...one, ...kept().slice(1)] });
		await turn(100);
		expect(at.server.calls).toHaveLength(2);
		expect(sent(1).map((e) => e.step)).toEqual(['check:a', 'check:b']);
		expect(log.all).toHaveLength(3);
	});
	it('a reload takes up what the last visit could not send, and sends nothing the server has already', async () => {
		const event = (clientId: string, kind: LogEvent['kind']): LogEvent => ({ clientId, kind, happenedAt: '2026-01-01T10:00:00.000Z' });
		at.browser.set(KEY, JSON.stringify([event('1', 'started'), event('2', 'paused')]));
		const log = new BenchLog('piece-1', [event('1', 'started')]);
		at.server.answer(200, { events: [event('1', 'started'), event('2', 'paused')] });
		log.begin();
		expect(log.all.map((e) => e.clientId)).toEqual(['1', '2']);
		await turn();
		expect(sent(0).map((e) => e.clientId)).toEqual(['2']);
		expect(log.all.map((e) => e.clientId)).toEqual(['1', '2']);
	});
	it('one event that is refused is shown with why, blocks none, outlives a reload, and goes again with other words or is left out', async () => {
		const log = new BenchLog('piece-1', []);
		const [first, second, third] = [at.server.hold(), at.server.hold(), at.server.hold()];
		log.add('started');
		await turn();
		first(200, { events: sent(0) });
		await turn();
		log.add('note', 'run:1', 'bad');
		await turn();
		log.add('step-done', 'check:a');
		const [bad] = sent(1);
		second(200, { events: sent(0), refused: [{ clientId: bad.clientId, message: 'note: must be text' }] });
		await turn();
		third(200, { events: [...sent(0), ...sent(2)] });
		await turn();
		expect(log.events.map((e) => e.kind)).toEqual(['started', 'step-done']);
		expect([log.unsent.length, log.message]).toEqual([0, '']);
		expect(log.refused).toMatchObject([{ event: { clientId: bad.clientId, note: 'bad' }, message: 'note: must be text' }]);
		const again = new BenchLog('piece-1', log.events);
		again.begin();
		expect(again.refused).toMatchObject([{ event: { clientId: bad.clientId } }]);
		at.server.answer(200, { events: log.events });
		again.correct(bad.clientId, 'good words');
		await turn();
		expect(sent(3)[0]).toMatchObject({ clientId: bad.clientId, note: 'good words', happenedAt: bad.happenedAt });
		expect(again.refused).toEqual([]);
		log.leaveOut(bad.clientId);
		expect(new BenchLog('piece-1', []).refused).toEqual([]);
	});
	it('a refusal for a reason is shown, stays on the screen and is not sent again by itself', async () => {
		const log = new BenchLog('piece-1', []);
		at.server.answer(409, { message: 'This piece is finished.' });
		log.add('step-done', 'check:a');
		await turn(30_000);
		expect(at.server.calls).toHaveLength(1);
		expect([log.message, log.all.length]).toEqual(['This piece is finished.', 1]);
	});
	it('a browser that keeps nothing is said so, and the events go all the same', async () => {
		keptInBrowser(true);
		const log = new BenchLog('piece-1', []);
		const give = at.server.hold();
		log.add('started');
		expect(log.message).toMatch(/keeps nothing/);
		await turn();
		give(200, { events: sent(0) });
		await turn();
		expect(log.events).toHaveLength(1);
	});
	it('a broken store is an empty one; leaving the page stops the retries', async () => {
		at.browser.set(KEY, '{not json');
		const log = new BenchLog('piece-1', []);
		log.begin();
		expect(log.all).toEqual([]);
		at.server.answer(0, {});
		log.add('started');
		await turn();
		log.end();
		await turn(60_000);
		expect(at.server.calls).toHaveLength(1);
	});
});
