import { describe, expect, it, vi } from 'vitest';
import { fleetingPhotographs, type WaitingPhotograph } from './photograph-store';
import { PhotographQueue } from './photograph-queue.svelte';
import { freshPage } from './testing';

const at = freshPage();
const PIECE = '7f6a2c1e-0000-4000-8000-000000000001';
const picture = new Blob(['pixels'], { type: 'image/jpeg' });
const queueWith = (store = fleetingPhotographs()) => ({ store, queue: new PhotographQueue(() => Promise.resolve(store)) });
const paths = () => at.server.calls.map((c) => new URL(c.path, 'http://here').searchParams);

describe('photographs on their way', () => {
	it('goes with its step, its time and its taker, once, and is then kept no longer', async () => {
		const { queue, store } = queueWith();
		await queue.begin({ stamp: 's-1' });
		at.server.answer(201, {});
		await queue.add({ pieceId: PIECE, step: 'run:r1', about: 'e-1' }, picture);
		await queue.send();
		const [said] = paths();
		expect([said.get('step'), said.get('about'), said.get('stamp'), said.get('note')]).toEqual(['run:r1', 'e-1', 's-1', null]);
		expect(said.get('clientId')).toMatch(/^[0-9a-f-]{36}$/);
		expect([queue.waiting.length, queue.arrived, (await store.all()).length]).toEqual([0, 1, 0]);
		expect(at.server.calls.length).toBe(1);
	});
	it('waits while the server is gone, also over a reload, and goes under the same id', async () => {
		const { queue, store } = queueWith();
		await queue.begin({ stamp: 's-1' });
		at.server.answer(0, undefined);
		await queue.add({ pieceId: PIECE, step: 'run:r1' }, picture);
		await queue.send();
		expect(queue.message).toMatch(/kept on this device/);
		queue.end();
		// another page, another person
		const { queue: next } = queueWith(store);
		at.server.answer(201, {});
		await next.begin({ stamp: 's-2' });
		await next.send();
		const [first, second] = paths();
		expect([second.get('clientId'), second.get('stamp')]).toEqual([first.get('clientId'), 's-1']);
		expect((await store.all()).length).toBe(0);
	});
	it('tries again by itself', async () => {
		const { queue } = queueWith();
		await queue.begin({});
		at.server.answer(503, {});
		await queue.add({ pieceId: PIECE }, picture);
		await queue.send();
		at.server.answer(201, {});
		await vi.advanceTimersByTimeAsync(4000);
		expect([queue.waiting.length, queue.arrived, queue.message]).toEqual([0, 1, '']);
	});
	it('one that is refused says why, stays until it is left out, and holds up no other', async () => {
		const { queue, store } = queueWith();
		await queue.begin({});
		at.server.answer(400, { message: 'No.', faults: [{ field: 'photograph', value: 'something else', allowed: 'must be a picture' }] });
		at.server.answer(201, {});
		await queue.add({ pieceId: PIECE }, new Blob(['text']));
		await queue.add({ pieceId: PIECE }, picture);
		await queue.send();
		expect(queue.waiting.map((p) => p.message)).toEqual(['photograph: must be a picture']);
		expect((await store.all()).map((p) => p.message)).toEqual(['photograph: must be a picture']);
		await queue.leaveOut(queue.waiting[0].clientId);
		expect([queue.waiting.length, (await store.all()).length]).toEqual([0, 0]);
	});
	it('sends nothing while nobody is signed in, and stops when the session is over', async () => {
		const { queue } = queueWith();
		await queue.begin(null);
		await queue.add({ pieceId: PIECE }, picture);
		await queue.send();
		expect(at.server.calls.length).toBe(0);
		at.server.answer(401, {});
		await queue.begin({});
		await queue.send();
		await vi.advanceTimersByTimeAsync(20_000);
		expect([at.server.calls.length, queue.waiting.length]).toEqual([1, 1]);
	});
	it('keeps it on the page where the browser keeps nothing, and says so', async () => {
		const queue = new PhotographQueue(() => Promise.reject(new Error('private window')));
		await queue.begin({});
		at.server.answer(0, undefined);
		await queue.add({ pieceId: PIECE }, picture);
		expect(queue.message).toMatch(/keeps no photographs/);
		expect(queue.waiting.map((p: WaitingPhotograph) => p.pieceId)).toEqual([PIECE]);
	});
});
