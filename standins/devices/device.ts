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

/** Between 0 and 1, the same row of numbers from the same beginning (mulberry32, public domain). */
export function scatter(seed: number): () => number {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) >>> 0;
		let t = Math.imul(a ^ (a >>> 15), 1 | a);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}
