/** The simulated devices, asked as their program asks them. */
import { DEVICE_KINDS } from '../../core/document/words';
import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { arcsOf, recognise, type ArcSample } from '../../core/devices/arcLog';
import { readReading } from '../../core/devices/readings';
import type { Bench } from './device';
import { arc, SIMULATED } from './kinds';

const bench: Bench = { step: 'run:r1', kind: 'run', run: { arcS: 40, ampsA: 60, volts: 11 }, lastArcAt: 0, ambientC: 20 };

/** Readings of so many seconds, as they would be sent. */
function played(kind: (typeof DEVICE_KINDS)[number], seconds: number, device = SIMULATED[kind](7)): ArcSample[] {
	const out: ArcSample[] = [];
	for (let t = 0; t < seconds * 1000; t += device.everyMs)
		for (const v of [...device.read(t, bench), ...(t === 3000 ? (device.press?.() ?? []) : [])])
			out.push({ id: randomUUID(), at: new Date(t).toISOString(), ...v });
	return out;
}

describe('simulated devices', () => {
	it.each(DEVICE_KINDS)('%s: everything it says is what such a device may say, and the same from the same beginning', (kind) => {
		const said = played(kind, 60);
		expect(said.length).toBeGreaterThan(0);
		for (const r of said) expect(readReading(kind, r).faults, JSON.stringify(r)).toEqual([]);
		const bare = (list: ArcSample[]) => list.map((r) => ({ ...r, id: '' }));
		expect(bare(played(kind, 60))).toEqual(bare(said));
	});
	it('the arc log burns the run that is in hand, once, about as planned; hotter and slower where it is told to', () => {
		const [one, ...more] = arcsOf(played('arc', 120));
		expect(more).toEqual([]);
		const planned = { fromMm: 0, toMm: 80, speedMmPerS: 2, ampsA: 60, volts: 11 };
		expect(recognise(one, planned)).toMatchObject({ isWhole: true, otherwise: [] });
		const [hot] = arcsOf(played('arc', 120, arc(7, 1.3, 1.4)));
		expect(recognise(hot, planned)!.otherwise.join()).toMatch(/longer under the arc.*hotter than planned/);
	});
	it('the probe cools towards the shop’s air, the oxygen is swept out', () => {
		const metal = SIMULATED.probe(1);
		const [warm, cold] = [10_000, 3_600_000].map((t) => metal.read(t, bench)[0].metalC!);
		expect(warm).toBeGreaterThan(120);
		expect(Math.abs(cold - bench.ambientC)).toBeLessThan(2);
		expect(metal.read(0, null)).toEqual([]);
		const meter = SIMULATED.oxygen(1);
		const [air, swept] = [0, 300_000].map((t) => meter.read(t, bench)[0].oxygenPct!);
		expect([air > 20, swept < 0.03]).toEqual([true, true]);
	});
});
