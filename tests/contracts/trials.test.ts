/** The short form of `npm run test:kills` and `npm run fuzz`, on a shop of its own that bin/start keeps. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { killedTasks, killing } from '../../trials/killing';
import { Shop } from '../../trials/shop';
import { spoiling } from '../../trials/spoiling';

let shop: Shop;
beforeAll(async () => void (shop = await Shop.open()), 120_000);
afterAll(async () => shop.close(), 60_000);

describe('a shop under which things are killed', () => {
	it('every acknowledged tap is stored once, in order, under its person, and the shop comes back by itself', { timeout: 240_000 }, async () => {
		const r = await killing(shop, { server: 3, database: 2, worker: 1 });
		expect(r.taps).toBeGreaterThan(20);
		expect({ lost: r.lost, twice: r.twice, disordered: r.disordered, misnamed: r.misnamed }).toEqual({
			lost: 0,
			twice: 0,
			disordered: 0,
			misnamed: 0
		});
	});
	it('no task is lost with its worker, and the queue is left clean', { timeout: 240_000 }, async () => {
		const r = await killedTasks(shop, 2, 1);
		expect([r.made, r.done]).toEqual([2, 2]);
		expect(r.takenMs).toBeLessThan(Infinity);
		const waiting = await shop.query(`select 1 from pgboss.job where name = 'forecast' and state in ('created', 'retry', 'active')`);
		expect(waiting).toEqual([]);
	});
	it('two starts from one folder: the second says that it runs', async () => {
		expect(await shop.startAgain()).toMatch(/already runs/);
	});
});

describe('files and requests with something wrong in them', () => {
	it('are refused in words: no crash, no page of a megabyte', { timeout: 240_000 }, async () => {
		const r = await spoiling(shop, 200, 150);
		expect(r.crashes).toEqual([]);
		expect(r.largestAnswer).toBeLessThan(1e6);
	});
});
