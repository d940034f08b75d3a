/** What devices at the bench send: a temperature probe, an arc log, a gauge, an oxygen meter, a foot switch. One line a reading. */
import 'reflect-metadata';
import { IsISO8601, IsUUID } from 'class-validator';
import type { Fault } from '../document/faults';
import { Maybe, Num, OneOf } from '../document/validators';
import { readAs } from '../document/validate';
import type { DeviceKind } from '../document/words';

/** One reading. Which of its values belong to which device, `DEVICE` says. */
export class DeviceReading {
	/** made by the device: sent again, it is the same reading */
	@IsUUID('4', { message: 'must be a UUID (version 4) made by the device' }) id!: string;
	@IsISO8601({ strict: true }, { message: 'must be a time like 2026-04-30T09:15:00.250Z' }) at!: string;
	@Maybe() @Num(-50, 1600) metalC?: number;
	@Maybe() @OneOf(['on', 'off']) arc?: 'on' | 'off';
	/** means over the time since the reading before */
	@Maybe() @Num(0, 1000) ampsA?: number;
	@Maybe() @Num(0, 100) volts?: number;
	@Maybe() @Num(-1e5, 1e5) value?: number;
	@Maybe() @OneOf(['mm', 'deg']) unit?: 'mm' | 'deg';
	@Maybe() @Num(0, 25) oxygenPct?: number;
	@Maybe() @OneOf(['down']) press?: 'down';
}
type ReadingField = Exclude<keyof DeviceReading, 'id' | 'at'>;

interface Device {
	words: string;
	/** what a reading of it may carry, and what it must */
	may: readonly ReadingField[];
	must: readonly ReadingField[];
	/** what Sarta does with it at the bench */
	does: string;
}
export const DEVICE: Readonly<Record<DeviceKind, Device>> = {
	probe: { words: 'Temperature probe', may: ['metalC'], must: ['metalC'], does: 'shows the metal beside the wait, to be logged with a press' },
	arc: { words: 'Arc log', may: ['arc', 'ampsA', 'volts'], must: [], does: 'knows runs by their arcs, and what the machine really gave' },
	gauge: { words: 'Gauge', may: ['value', 'unit'], must: ['value', 'unit'], does: 'fills the reading in hand on Measure' },
	oxygen: { words: 'Oxygen meter', may: ['oxygenPct'], must: ['oxygenPct'], does: 'fills the oxygen of a purge that is signed' },
	switch: { words: 'Foot switch', may: ['press'], must: ['press'], does: 'says Done' }
};

/** @param raw one line as it came */
export function readReading(kind: DeviceKind, raw: unknown): { reading?: DeviceReading; faults: Fault[] } {
	const { value, faults } = readAs(DeviceReading, raw);
	if (!value) return { faults };
	const given = (Object.keys(value) as (keyof DeviceReading)[]).filter((k) => value[k] !== undefined && k !== 'id' && k !== 'at') as ReadingField[];
	const { may, must, words } = DEVICE[kind];
	const fault = (field: string, allowed: string): Fault => ({ field, value: String(value[field as ReadingField] ?? 'nothing'), allowed });
	const wrong = [
		...given.filter((k) => !may.includes(k)).map((k) => fault(k, `does not belong to a ${words.toLowerCase()}`)),
		...must.filter((k) => !given.includes(k)).map((k) => fault(k, 'must be given')),
		...(given.length ? [] : [fault(may[0], `give ${may.join(' or ')}`)])
	];
	return wrong.length ? { faults: wrong } : { reading: value, faults: [] };
}
