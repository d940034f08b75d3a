import { afterEach, describe, expect, it, vi } from 'vitest';
import { BenchLog } from './bench-log.svelte';
import { BenchQueue, type LogEvent } from './bench-queue.svelte';
import { fleetingTaps, type TapStore } from './taps';
import { freshPage } from './testing';

const at = freshPage();
const turn = (ms = 0) => vi.advanceTimersByTimeAsync(ms);
const sent = (i: number) => (at.server.calls[i].body as { events: (LogEvent & { stamp?: string })[] }).events;
const STAMP = '6f0f3c60-5a63-4c8e-9a1d-0d6f8b1f2a11';
const open: BenchQueue[] = [];
/** What the server answers: lines that follow another, numbered on. */
const log = (events: LogEvent[], after = 0, rest: object = {}) => ({ after, events: events.map((e, i) => ({ ...e, seq: after + i + 1 })), ...rest });
afterEach(() => open.splice(0).forEach((q) => q.end()));

/** A page of this browser with somebody signed in, and the log of a piece on it. */
async function pageOf(store: TapStore, events: LogEvent[] = [], person: { stamp: string } | null = { stamp: STAMP }) {
	const queue = new BenchQueue(() => Promise.resolve(store));
	open.push(queue);
	await queue.begin(person);
	const page = new BenchLog('piece-1', events, queue);
	page.begin();
	return { queue, log: page };
}

describe('the bench log on a tablet', () => {
	it('an event is on the screen at once, in the browser before it is sent, and gone from there when the server has it', async () => {
		const store = fleetingTaps();
		const { log: bench } = await pageOf(store);
		const give = at.server.hold();
		void bench.add('started');
		expect(bench.all.map((e) => e.kind)).toEqual(['started']);
		await turn();
		expect(await store.waiting()).toMatchObject([{ kind: 'started', pieceId: 'piece-1', stamp: STAMP }]);
		expect(sent(0)).toMatchObject([{ kind: 'started', stamp: STAMP }]);
		give(200, log(sent(0)));
		await turn();
		expect(bench.all.map((e) => e.kind)).toEqual(['started']);
		expect([bench.unsent.length, (await store.waiting()).length, bench.message]).toEqual([0, 0, '']);
	});
	it('without a network nothing is lost, the order is kept, and everything goes in one batch when it is back', async () => {
		const store = fleetingTaps();
		const { log: bench } = await pageOf(store);
		for (const status of [0, 503]) at.server.answer(status, {});
		void bench.add('started');
		await turn();
		expect(bench.message).toMatch(/kept on this device/);
		void bench.add('step-done', 'check:a');
		await turn();
		void bench.add('note', 'run:1', { note: 'a gap' });
		expect(bench.unsent).toHaveLength(3);
		const given = bench.unsent.map((e) => e.clientId);
		at.server.answer(200, log(bench.unsent));
		await turn(5000);
		const last = sent(at.server.calls.findLastIndex((c) => c.method === 'POST'));
		expect(last.map((e) => e.clientId)).toEqual(given);
		expect(last.map((e) => [e.kind, e.step ?? null, e.note ?? null])).toEqual([
			['started', null, null],
			['step-done', 'check:a', null],
			['note', 'run:1', 'a gap']
		]);
		expect([bench.unsent.length, bench.all.length, bench.message]).toEqual([0, 3, '']);
	});
	it('what is pressed while a batch is under way goes with the next one, once', async () => {
		const { log: bench } = await pageOf(fleetingTaps());
		const give = at.server.hold();
		void bench.add('started');
		await turn();
		void bench.add('step-done', 'check:a');
		void bench.add('step-done', 'check:b');
		await turn();
		expect(at.server.calls).toHaveLength(1);
		at.server.answer(200, log(bench.unsent.slice(1), 1));
		give(200, log(sent(0)));
		await turn(100);
		expect(at.server.calls).toHaveLength(2);
		expect(sent(1).map((e) => e.step)).toEqual(['check:a', 'check:b']);
		expect(bench.all).toHaveLength(3);
	});
	it('a reload takes up what the last visit could not send; a sign-out keeps it, and it goes under the next session with its own stamp', async () => {
		const store = fleetingTaps();
		at.server.answer(0, {});
		const before = await pageOf(store);
		void before.log.add('paused');
		await turn();
		before.queue.end();
		const out = await pageOf(store, [], null);
		await turn(20_000);
		expect(out.queue.waiting).toHaveLength(1);
		expect(at.server.calls.filter((c) => c.method === 'POST')).toHaveLength(1);
		at.server.answer(200, log([]));
		await out.queue.begin({ stamp: 'another' });
		await turn();
		expect((at.server.calls.findLast((c) => c.method === 'POST')!.body as { events: { stamp: string }[] }).events[0].stamp).toBe(STAMP);
	});
	it('two tabs: neither loses the other’s taps, and each sees what the other has done', async () => {
		const store = fleetingTaps();
		const [one, two] = [await pageOf(store), await pageOf(store)];
		for (let i = 0; i < 4; i++) at.server.answer(0, {});
		void one.log.add('step-done', 'a');
		void two.log.add('step-done', 'b');
		await turn();
		const reopened = await pageOf(store);
		await turn();
		expect(reopened.queue.waiting.map((t) => t.step)).toEqual(['a', 'b']);
	});
	it('what one tab could not send and another did is no longer said to wait', async () => {
		const store = fleetingTaps();
		const [first, second] = [await pageOf(store), await pageOf(store)];
		at.server.answer(503, {});
		void first.log.add('started');
		await turn();
		expect(first.log.message).toMatch(/Not sent yet \(1\)/);
		at.server.answer(200, log(first.log.unsent));
		// the other page is looked at again, before the first one tries
		await second.queue.begin({ stamp: STAMP });
		await turn();
		expect([first.log.unsent.length, first.log.message]).toEqual([0, '']);
	});
	it('one event that is refused is shown with why, blocks none, outlives a reload, and goes again with other words or is left out', async () => {
		const store = fleetingTaps();
		const { log: bench } = await pageOf(store);
		const [first, second] = [at.server.hold(), at.server.hold()];
		void bench.add('note', 'run:1', { note: 'bad' });
		await turn();
		const [bad] = sent(0);
		void bench.add('step-done', 'check:a');
		first(200, log([], 0, { refused: [{ clientId: bad.clientId, message: 'note: must be text' }] }));
		await turn();
		second(200, log(sent(1)));
		await turn();
		expect(bench.events.map((e) => e.kind)).toEqual(['step-done']);
		expect([bench.unsent.length, bench.message]).toEqual([0, '']);
		expect(bench.refused).toMatchObject([{ clientId: bad.clientId, tap: { note: 'bad' }, message: 'note: must be text' }]);
		const again = await pageOf(store, bench.events);
		expect(again.log.refused).toMatchObject([{ clientId: bad.clientId }]);
		at.server.answer(200, log(bench.events));
		void again.log.correct(bad.clientId, 'good words');
		await turn();
		expect(sent(2)[0]).toMatchObject({ clientId: bad.clientId, note: 'good words', happenedAt: bad.happenedAt });
		expect([again.log.refused, await store.refused()]).toEqual([[], []]);
	});
	it('a piece whose taps are refused as a whole says so, keeps them, and holds up no other piece', async () => {
		const { log: bench, queue } = await pageOf(fleetingTaps());
		const other = new BenchLog('piece-2', [], queue);
		at.server.answer(404, { message: 'This piece is not here' });
		void bench.add('step-done', 'check:a');
		await turn();
		expect([bench.message, bench.all.length]).toEqual(['This piece is not here', 1]);
		at.server.answer(200, log([]));
		void other.add('note', 'x', { note: 'y' });
		await turn();
		expect(at.server.calls.filter((c) => c.method === 'POST').map((c) => c.path)).toEqual([
			'/api/pieces/piece-1/events',
			'/api/pieces/piece-2/events'
		]);
	});
	it('a browser that keeps nothing is said so, and the events go all the same', async () => {
		const queue = new BenchQueue(() => Promise.reject(new Error('private window')));
		open.push(queue);
		await queue.begin({ stamp: STAMP });
		const bench = new BenchLog('piece-1', [], queue);
		bench.begin();
		const give = at.server.hold();
		void bench.add('started');
		expect(bench.message).toMatch(/keeps nothing/);
		await turn();
		give(200, log(sent(0)));
		await turn();
		expect(bench.events).toHaveLength(1);
	});
	it('a long log comes page by page, and one that begins further on than is known here is asked for from there', async () => {
		const lines = Array.from({ length: 5 }, (_, i): LogEvent => ({ clientId: `c${i}`, kind: 'note', happenedAt: '2026-01-01T10:00:00.000Z' }));
		const { log: bench } = await pageOf(fleetingTaps());
		at.server.answer(200, log(lines.slice(0, 2), 0, { more: true }));
		at.server.answer(200, log(lines.slice(2, 3), 2));
		await turn(5000);
		expect(bench.events.map((e) => e.clientId)).toEqual(['c0', 'c1', 'c2']);
		// a tap whose answer begins at a line that this page has not
		at.server.answer(200, log(lines.slice(4), 4));
		at.server.answer(200, log(lines.slice(3), 3));
		void bench.add('note', 'x', { note: 'y' });
		await turn();
		expect((at.server.calls[2].body as { after: number }).after).toBe(3);
		expect(bench.events.map((e) => e.seq)).toEqual([1, 2, 3, 4, 5]);
	});
	it('with the server gone a page shows what was last seen here; where it answers, it alone counts', async () => {
		const store = fleetingTaps();
		const lines = Array.from({ length: 3 }, (_, i): LogEvent => ({ clientId: `c${i}`, kind: 'note', happenedAt: '2026-01-01T10:00:00.000Z' }));
		const first = await pageOf(store);
		at.server.answer(200, log(lines));
		await turn(5000);
		first.log.end();
		// the page as it was kept knows the first line only
		const old = log(lines).events.slice(0, 1);
		const gone = await pageOf(store, old);
		at.server.answer(0, {});
		await turn(5000);
		expect(gone.log.events.map((e) => e.clientId)).toEqual(['c0', 'c1', 'c2']);
		gone.log.end();
		// a restored server knows less than was seen here
		const restored = await pageOf(store, old);
		at.server.answer(200, log([], 1));
		await turn(5000);
		expect(restored.log.events.map((e) => e.clientId)).toEqual(['c0']);
	});
	it('what another tablet has done is seen, and an answer that was overtaken takes nothing back', async () => {
		const { log: bench } = await pageOf(fleetingTaps());
		const event = (clientId: string): LogEvent => ({ clientId, kind: 'step-done', step: clientId, happenedAt: '2026-01-01T10:00:00.000Z' });
		at.server.answer(200, log([event('a'), event('b')]));
		await turn(5000);
		expect(bench.events.map((e) => e.clientId)).toEqual(['a', 'b']);
		at.server.answer(200, log([event('a')]));
		await turn(5000);
		expect(bench.events).toHaveLength(2);
		expect(at.server.calls.map((c) => c.path)).toEqual(['/api/pieces/piece-1/events?after=0', '/api/pieces/piece-1/events?after=2']);
		bench.end();
		const calls = at.server.calls.length;
		await turn(30_000);
		expect(at.server.calls).toHaveLength(calls);
	});
});
