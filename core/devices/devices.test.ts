/** What devices send, and which run an arc was. */
import { DEVICE_KINDS } from '../document/words';
import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arcEnergy } from '../heat/arcEnergy';
import { arcsOf, recognise, type Arc, type ArcSample, type PlannedRun } from './arcLog';
import { readLines } from './lines';
import { DEVICE, readReading, type DeviceReading } from './readings';

const start = Date.parse('2026-03-02T08:00:00.000Z');
const sample = (s: number, more: Partial<ArcSample>): ArcSample => ({ id: randomUUID(), at: new Date(start + 1000 * s).toISOString(), ...more });

describe('a line of a device', () => {
	const EXAMPLE: Record<(typeof DEVICE_KINDS)[number], Partial<DeviceReading>> = {
		probe: { metalC: 140.5 },
		arc: { ampsA: 60, volts: 10 },
		gauge: { value: 0.35, unit: 'mm' },
		oxygen: { oxygenPct: 0.02 },
		switch: { press: 'down' }
	};
	it.each(DEVICE_KINDS)('%s: its own values are taken, those of the others are not, none is nothing', (kind) => {
		const head = { id: randomUUID(), at: '2026-03-02T08:00:00.250Z' };
		expect(readReading(kind, { ...head, ...EXAMPLE[kind] }).reading).toMatchObject(EXAMPLE[kind]);
		for (const other of DEVICE_KINDS)
			if (other !== kind) expect(readReading(kind, { ...head, ...EXAMPLE[other] }).faults.length, other).toBeGreaterThan(0);
		expect(readReading(kind, head).faults.length).toBeGreaterThan(0);
		expect(readReading(kind, { ...EXAMPLE[kind], at: head.at }).faults[0].field).toBe('id');
		expect(readReading(kind, { ...head, ...EXAMPLE[kind], at: 'noon' }).faults[0].field).toBe('at');
		expect(readReading(kind, 'a word').faults.length).toBeGreaterThan(0);
		expect(DEVICE[kind].may).toEqual(expect.arrayContaining([...DEVICE[kind].must]));
	});
	it('JSON lines and CSV say the same; a line that is neither is told by its number', () => {
		const id = randomUUID();
		const json = readLines(`{"id":"${id}","at":"2026-03-02T08:00:00Z","ampsA":60.5}\n\n{"ampsA":\n`, 'application/x-ndjson');
		expect(json.map((l) => [l.line, l.value !== undefined, l.fault?.allowed])).toEqual([
			[1, true, undefined],
			[3, false, 'must be one JSON object']
		]);
		const csv = readLines(`id,at,ampsA,volts\r\n${id},2026-03-02T08:00:00Z,60.5,\r\n`, 'text/csv; charset=utf-8');
		expect(csv).toEqual([{ line: 2, value: json[0].value }]);
	});
});

describe('arcs of a log', () => {
	it('energy is that of EN 1011-1 where amps and volts are even: Q = U I / v, here 10 V 60 A 2 mm/s: 300 J/mm', () => {
		const log = [sample(0, { arc: 'on' }), ...Array.from({ length: 50 }, (_, i) => sample(i + 1, { ampsA: 60, volts: 10 }))];
		log.push(sample(50, { arc: 'off' }));
		const [arc] = arcsOf(log);
		expect(arc).toMatchObject({ arcS: 50, ampsA: 60, volts: 10 });
		const laid = 100;
		expect(arc.energyJ! / laid).toBeCloseTo(300, 9);
		// and what the plan says of the same settings
		const planned = arcEnergy({
			id: 's',
			name: 's',
			process: 'TIG',
			current: 'steady',
			ampsA: 60,
			volts: 10,
			speedMmPerS: 2,
			gas: 'Argon',
			gasLPerMin: 8
		});
		expect(planned.arcEnergy).toBeCloseTo(arc.energyJ! / laid, 9);
	});
	it('a record with a ramp up, a crater fill and a pause between two arcs, worked by hand', () => {
		// 1 s at a mean of 40 A 9 V, 8 s at 80 A 11 V, 2 s at 30 A 9.5 V: 360 + 7040 + 570 = 7970 J; then 20 s of nothing; then 4 s at 50 A 10 V: 2000 J
		const log = [
			sample(0, { arc: 'on' }),
			sample(1, { ampsA: 40, volts: 9 }),
			sample(9, { ampsA: 80, volts: 11 }),
			sample(11, { ampsA: 30, volts: 9.5, arc: 'off' }),
			// the source hums on: no arc, nothing counted
			sample(20, { ampsA: 0, volts: 60 }),
			sample(31, { arc: 'on', ampsA: 5, volts: 20 }),
			sample(35, { ampsA: 50, volts: 10, arc: 'off' })
		];
		const [one, two, ...more] = arcsOf(log);
		expect(more).toEqual([]);
		expect(one.energyJ).toBeCloseTo(7970, 9);
		expect(one.ampsA).toBeCloseTo((40 + 640 + 60) / 11, 9);
		expect(one.volts).toBeCloseTo((9 + 88 + 19) / 11, 9);
		expect([two.arcS, two.energyJ]).toEqual([4, 2000]);
		// mean volts times mean amps is not the energy where both move together
		expect(Math.abs(one.ampsA! * one.volts! * one.arcS - one.energyJ!)).toBeGreaterThan(100);
	});
	it('the order of arrival does not matter; a lost end is no arc; a source without figures still gives times', () => {
		const log = [sample(0, { arc: 'on' }), sample(5, { ampsA: 60, volts: 10 }), sample(10, { arc: 'off' })];
		fc.assert(
			fc.property(fc.shuffledSubarray(log, { minLength: 3 }), (mixed) => {
				expect(arcsOf(mixed)).toEqual(arcsOf(log));
			})
		);
		expect(arcsOf([sample(0, { arc: 'on' }), sample(5, {}), sample(400, { arc: 'off' })])).toEqual([]);
		expect(arcsOf([sample(0, { arc: 'on' }), sample(3, { arc: 'on' }), sample(10, { arc: 'off' })])).toMatchObject([{ arcS: 7 }]);
		expect(arcsOf([sample(0, { arc: 'off' })])).toEqual([]);
		const [bare] = arcsOf([sample(0, { arc: 'on' }), sample(30, { arc: 'off' })]);
		expect([bare.arcS, bare.ampsA, bare.energyJ]).toEqual([30, undefined, undefined]);
	});
});

describe('which run an arc was', () => {
	const planned: PlannedRun = { fromMm: 0, toMm: 100, speedMmPerS: 2, ampsA: 60, volts: 10 };
	const arc = (arcS: number, more: Partial<Arc> = {}): Arc => ({ id: 'a', from: 0, to: 1000 * arcS, arcS, ...more });
	it('as planned, slower, hotter: said from fifteen per cent on', () => {
		const even = recognise(arc(50, { ampsA: 60, volts: 10 }), planned)!;
		expect(even).toMatchObject({ isWhole: true, toMm: 100, speedMmPerS: 2, otherwise: [] });
		expect(even.ratio).toBeCloseTo(1, 9);
		const slow = recognise(arc(65, { ampsA: 60, volts: 10 }), planned)!;
		expect(slow.otherwise).toEqual(['30 % longer under the arc than planned', '30 % hotter than planned, by arc energy']);
		const hot = recognise(arc(50, { ampsA: 75, volts: 10 }), planned)!;
		expect(hot.otherwise).toEqual(['25 % hotter than planned, by arc energy']);
		// volts that were not told are the plan's
		expect(recognise(arc(50, { ampsA: 75 }), planned)!.ratio).toBeCloseTo(1.25, 9);
		expect(recognise(arc(50), planned)!.ratio).toBeUndefined();
		expect(recognise(arc(40, { ampsA: 60, volts: 10 }), planned)!.otherwise).toEqual([
			'20 % shorter under the arc than planned',
			'20 % colder than planned, by arc energy'
		]);
	});
	it('one that went out early laid what its time lays at the planned speed, in the direction of the run', () => {
		expect(recognise(arc(25), planned)).toMatchObject({ isWhole: false, toMm: 50, speedMmPerS: 2 });
		expect(recognise(arc(25), { ...planned, fromMm: 100, toMm: 0 })).toMatchObject({ isWhole: false, toMm: 50 });
	});
	it('a touch or a tack is no run', () => {
		expect(recognise(arc(1.5), planned)).toBeUndefined();
	});
});
