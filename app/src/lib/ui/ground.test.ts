/** The ground a device is set to holds for its next page, and follows the device where it is told to. */
import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { followDevice, groundKept, isDarkGround, useGround } from './ground';

const kept = new Map<string, string>();
const page: { dataset: { ground?: string } } = { dataset: {} };
let isDark = false;
let heard: (() => void) | undefined;
beforeEach(() => {
	isDark = false;
	heard = undefined;
	kept.clear();
	delete page.dataset.ground;
	vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) });
	vi.stubGlobal('document', { documentElement: page });
	vi.stubGlobal('matchMedia', () => ({
		get matches() {
			return isDark;
		},
		addEventListener: (_: string, f: () => void) => (heard = f),
		removeEventListener: () => (heard = undefined)
	}));
});
afterAll(() => vi.unstubAllGlobals());
const shown = () => page.dataset.ground;

describe('the ground of the screen', () => {
	it('is light until somebody chooses, whatever the device is set to', () => {
		isDark = true;
		expect(groundKept()).toBe('light');
		kept.set('sarta-ground', 'purple');
		expect(groundKept()).toBe('light');
	});
	it('chosen dark it is dark, and kept; light again it is light', () => {
		useGround('dark');
		expect([shown(), groundKept()]).toEqual(['dark', 'dark']);
		useGround('light');
		expect([shown(), groundKept()]).toEqual([undefined, 'light']);
	});
	it('as the device: turns with it while the page is open, and no more when that has ended', () => {
		const end = followDevice();
		useGround('device');
		expect(shown()).toBeUndefined();
		isDark = true;
		heard!();
		expect(shown()).toBe('dark');
		end();
		expect(heard).toBeUndefined();
	});
	it('a dark device changes nothing for who chose light', () => {
		followDevice();
		useGround('light');
		isDark = true;
		heard!();
		expect(shown()).toBeUndefined();
		expect([isDarkGround('light', true), isDarkGround('dark', false), isDarkGround('device', false)]).toEqual([false, true, false]);
	});
});
