/** Current that pulses so slowly that the pool feels each pulse: the arc's power through time. Quicker pulses count as their mean. */
import type { WeldSettings } from '../document/schema';
import { meanCurrent } from '../heat/arcEnergy';

export interface Pulse {
	periodS: number;
	/** share of it at the peak, which comes first */
	onShare: number;
	/** power at the peak and between, times the mean: the volts are taken as the same */
	peak: number;
	background: number;
}

/** Pulses a second from which on they count as their mean: a pool is as wide in that time as it ever is (common practice, no source). */
const QUICK = 5;

/** Nothing where the current is steady, or pulses quickly. */
export function pulseOf(s: WeldSettings): Pulse | undefined {
	const { pulsesPerSecond, onFraction: onShare = 0.5, backgroundA = s.ampsA } = s;
	if (s.current !== 'pulsed' || pulsesPerSecond === undefined || pulsesPerSecond >= QUICK) return undefined;
	const mean = meanCurrent(s);
	return { periodS: 1 / pulsesPerSecond, onShare, peak: s.ampsA / mean, background: backgroundA / mean };
}

/** Mean power from one time to another since the arc began, times the mean of whole pulses. */
export function powerOver({ periodS, onShare, peak, background }: Pulse, fromS: number, toS: number): number {
	/** s at the peak up to a time */
	const on = (s: number) => {
		const whole = Math.floor(s / periodS);
		return whole * onShare * periodS + Math.min(s - whole * periodS, onShare * periodS);
	};
	const share = (on(toS) - on(fromS)) / (toS - fromS);
	return share * peak + (1 - share) * background;
}
