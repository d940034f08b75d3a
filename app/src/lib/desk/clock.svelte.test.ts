/** The shop's clock: the server's, carried on steadily whatever the device's own does. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const AT = Date.parse('2026-03-02T08:00:00Z');
const kept = new Map<string, string>();
beforeEach(() => {
	vi.useFakeTimers({ now: AT });
	vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) });
	vi.resetModules();
	kept.clear();
});
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});
const opened = () => import('./clock');
const header = (ms: number) => new Date(ms).toUTCString();

describe('the shop’s clock', () => {
	it('is the device’s own until a server is heard, then the server’s', async () => {
		const { shopNow, heardDate } = await opened();
		vi.advanceTimersByTime(5000);
		expect(shopNow()).toBe(AT + 5000);
		heardDate(header(AT + 5000 - 600_000));
		expect(Math.abs(shopNow() - (AT + 5000 - 600_000))).toBeLessThan(1000);
		// an answer that names the same second, or none, moves nothing
		const now = shopNow();
		heardDate(header(AT + 6000 - 600_000));
		heardDate(null);
		heardDate('yesterday');
		expect(shopNow()).toBe(now);
	});
	it('a clock that is set in the middle of a wait changes nothing', async () => {
		const { shopNow } = await opened();
		const before = shopNow();
		vi.setSystemTime(AT + 3_600_000);
		expect(shopNow()).toBe(before);
		vi.advanceTimersByTime(10_000);
		expect(shopNow() - before).toBe(10_000);
	});
	it('what was known is known again by a page that opens without the server', async () => {
		(await opened()).heardDate(header(AT - 240_000));
		vi.resetModules();
		const { shopNow } = await opened();
		expect(Math.abs(shopNow() - (AT - 240_000))).toBeLessThan(1000);
	});
});
