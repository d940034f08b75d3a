/** The first hour: in order, done by what the shop holds, and each with a way to it. */
import { describe, expect, it } from 'vitest';
import type { ShopSoFar } from '$store/firstHour';
import { firstHour } from './firstHour';

const nothing: ShopSoFar = { welder: false, inspector: false, tools: false, sheet: false, job: false, issued: false, coupon: false, lesson: false };
const done = (shop: Partial<ShopSoFar>) => firstHour({ ...nothing, ...shop }).flatMap((s) => (s.isDone ? [s.id] : []));

describe('the first hour of a shop', () => {
	it('begins with nothing done and ends with all of it', () => {
		expect(done({})).toEqual([]);
		const all = Object.fromEntries(Object.keys(nothing).map((k) => [k, true])) as unknown as ShopSoFar;
		expect(done(all)).toEqual(firstHour(all).map((s) => s.id));
	});
	it('wants both a welder and an inspector', () => {
		expect(done({ welder: true })).toEqual([]);
		expect(done({ inspector: true })).toEqual([]);
		expect(done({ welder: true, inspector: true })).toEqual(['people']);
	});
	it('each says what, why and where', () => {
		for (const s of firstHour(nothing)) {
			expect(s.title.length, s.id).toBeGreaterThan(8);
			expect(s.why.length, s.id).toBeGreaterThan(20);
			expect(s.href === 'new-job' || s.href.startsWith('/'), s.id).toBe(true);
		}
	});
});
