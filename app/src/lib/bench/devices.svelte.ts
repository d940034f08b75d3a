/** What devices at a piece send, as a page follows it: the newest value of each kind, arcs as they go out, presses as they come. */
import type { DeviceKind } from '$core/document/words';
import { arcsOf, type Arc, type ArcSample } from '$core/devices/arcLog';
import type { DeviceReading } from '$core/devices/readings';
import { call } from '$lib/call';
import { shopNow } from '$lib/desk/clock';

export interface DeviceHere {
	id: string;
	kind: DeviceKind;
	name: string;
	isSimulated: boolean;
}
interface Heard {
	devices: DeviceHere[];
	readings: { seq: number; deviceId: string; reading: DeviceReading }[];
	last: number;
}
export interface Newest {
	reading: DeviceReading;
	device: DeviceHere;
	/** ms since 1970, by this page's clock */
	heardAt: number;
}
export interface DeviceEars {
	onarc?(arc: Arc, device: DeviceHere): void;
	/** arcs that went out while nobody looked: which step each was, nobody knows */
	onmissed?(arcs: number, device: DeviceHere): void;
	onpress?(): void;
	onvalue?(reading: DeviceReading, device: DeviceHere): void;
}

/** While something stands at the piece, and while nothing does. */
const LOOK_MS = 1000;
const SELDOM_MS = 8000;
/** A value older than this is not what the device reads now. */
export const STALE_MS = 15_000;
/** What was pressed or sent while nobody looked for this long was meant for another step, ms. */
const LATE_MS = 5000;
/** Of a source's log, what may still belong to an arc that burns. */
const MOST_SAMPLES = 4000;

/** As it stands beside what it read, for good. */
export const deviceName = (d: DeviceHere): string => (d.isSimulated ? `${d.name} (simulated)` : d.name);

export class DeviceWatch {
	devices = $state.raw<DeviceHere[]>([]);
	newest = $state.raw<Partial<Record<DeviceKind, Newest>>>({});
	/** an arc burns, as far as its log tells */
	isBurning = $state(false);
	private timer?: ReturnType<typeof setTimeout>;
	private isGone = false;
	private samples: ArcSample[] = [];
	private lookedAt = shopNow();

	/** @param after number of the newest reading when the page was made: what came before is past */
	constructor(
		private readonly piece: string,
		private after: number,
		private readonly ears: DeviceEars
	) {}

	/** Browser only. @returns how to end */
	begin(): () => void {
		void this.look();
		return () => {
			this.isGone = true;
			clearTimeout(this.timer);
		};
	}
	private async look() {
		const isSeen = typeof document === 'undefined' || document.visibilityState !== 'hidden';
		const r = isSeen ? await call<Heard>('GET', `/api/pieces/${this.piece}/devices?after=${this.after}`) : undefined;
		if (this.isGone) return;
		if (r?.ok) this.take(r.data);
		this.timer = setTimeout(() => void this.look(), this.devices.length ? LOOK_MS : SELDOM_MS);
	}
	private take({ devices, readings, last }: Heard) {
		if (JSON.stringify(devices) !== JSON.stringify(this.devices)) this.devices = devices;
		this.after = last;
		const now = shopNow();
		const isLate = now - this.lookedAt > LATE_MS;
		this.lookedAt = now;
		const newest = { ...this.newest };
		const missed = new Map<DeviceHere, number>();
		for (const { deviceId, reading } of readings) {
			const device = devices.find((d) => d.id === deviceId);
			if (!device) continue;
			newest[device.kind] = { reading, device, heardAt: now };
			if (device.kind === 'arc') {
				const arc = this.hearArc(reading);
				if (arc && isLate) missed.set(device, (missed.get(device) ?? 0) + 1);
				else if (arc) this.ears.onarc?.(arc, device);
			} else if (isLate) continue;
			else if (device.kind === 'switch') this.ears.onpress?.();
			else this.ears.onvalue?.(reading, device);
		}
		if (readings.length) this.newest = newest;
		for (const [device, arcs] of missed) this.ears.onmissed?.(arcs, device);
	}
	/** @returns the arc that went out with this reading */
	private hearArc(reading: DeviceReading): Arc | undefined {
		this.samples = reading.arc === 'on' ? [reading] : [...this.samples.slice(-MOST_SAMPLES), reading];
		this.isBurning = reading.arc !== 'off' && this.samples[0]?.arc === 'on';
		if (reading.arc !== 'off') return undefined;
		const arc = arcsOf(this.samples).at(-1);
		this.samples = [];
		return arc;
	}
}
