/** What every simulated device is: asked again and again what it reads now, it may answer with readings, from what is in hand at the bench. */
import type { DeviceReading } from '../../core/devices/readings';

/** What the server says of the piece it stands at; a real device has no use for it. */
export interface Bench {
	step: string;
	kind: string;
	run?: { arcS: number; ampsA: number; volts: number };
	lastArcAt?: number;
	ambientC: number;
}
export type Values = Omit<DeviceReading, 'id' | 'at'>;

export interface Simulated {
	/** ms between two questions */
	everyMs: number;
	/** @param at ms since 1970 @param bench nothing while nothing is welded there */
	read(at: number, bench: Bench | null): Values[];
	/** its switch was pressed */
	press?(): Values[];
}
