/** Against a whole IndexedDB, not a stand-in of our own. */
import 'fake-indexeddb/auto';
import { describe, expect, it, vi } from 'vitest';
import { openTaps, type Tap } from './taps';

const tap = (clientId: string): Tap => ({ clientId, pieceId: 'p', kind: 'note', note: clientId, happenedAt: '2026-01-01T10:00:00.000Z' });

describe('taps kept in the browser', () => {
	it('two tabs write side by side: every tap is there, in the order made, and what is settled is gone for both', async () => {
		const [one, two] = [await openTaps(), await openTaps()];
		await Promise.all([one.add(tap('a')), two.add(tap('b')), one.add(tap('c')), two.add(tap('d'))]);
		expect((await one.waiting()).map((t) => t.clientId)).toEqual(['a', 'b', 'c', 'd']);
		await expect(two.add(tap('a'))).rejects.toThrow();
		await two.settle(['a'], [{ clientId: 'c', tap: tap('c'), message: 'no' }]);
		expect((await one.waiting()).map((t) => t.clientId)).toEqual(['b', 'd']);
		expect(await one.refused()).toMatchObject([{ clientId: 'c', message: 'no' }]);
		await one.again('c', { ...tap('c'), note: 'yes' });
		expect((await two.waiting()).map((t) => [t.clientId, t.note])).toEqual([
			['b', 'b'],
			['d', 'd'],
			['c', 'yes']
		]);
		expect(await two.refused()).toEqual([]);
		const later = await openTaps();
		expect(await later.waiting()).toHaveLength(3);
	});
	it('those that an earlier version kept go with the others, once', async () => {
		const piece = '5243574b-5af7-40c0-a672-6fc0ecbf9cc2';
		const kept = new Map([
			[`sarta-bench-${piece}`, JSON.stringify([{ clientId: 'old', kind: 'step-done', step: 's', happenedAt: '2026-01-01T09:00:00.000Z' }])],
			['sarta-reading-x', '{}']
		]);
		vi.stubGlobal('localStorage', {
			get length() {
				return kept.size;
			},
			key: (i: number) => [...kept.keys()][i],
			getItem: (k: string) => kept.get(k) ?? null,
			removeItem: (k: string) => kept.delete(k)
		});
		await openTaps();
		const store = await openTaps();
		vi.unstubAllGlobals();
		expect((await store.waiting()).filter((t) => t.clientId === 'old')).toMatchObject([{ pieceId: piece, step: 's' }]);
		expect([...kept.keys()]).toEqual(['sarta-reading-x']);
	});
});
