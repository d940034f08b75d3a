/** Arc energy and net heat input of one run. EN 1011-1:2009 clause 19; EN 60974-1 for the volts estimate. */
import type { WeldSettings } from '../document/schema';

/** EN 1011-1 thermal efficiency k (a convention: measured TIG lies between 0.6 and 0.8). */
export const THERMAL_EFFICIENCY: Record<WeldSettings['process'], number> = { TIG: 0.6, MIG: 0.8, MMA: 0.8 };

/** Time-mean current, A: `(Ip tp + Ib tb) / (tp + tb)`. */
export function meanCurrent(s: Pick<WeldSettings, 'current' | 'ampsA' | 'backgroundA' | 'onFraction'>): number {
	if (s.current === 'steady') return s.ampsA;
	const on = s.onFraction ?? 0.5;
	return s.ampsA * on + (s.backgroundA ?? s.ampsA) * (1 - on);
}

/** EN 60974-1 conventional TIG load voltage, V: high for a short arc. */
export const estimatedVolts = (amps: number) => 10 + 0.04 * amps;

export interface ArcEnergy {
	meanAmps: number;
	volts: number;
	voltsEstimated: boolean;
	/** J/mm */
	arcEnergy: number;
	/** J/mm into the metal */
	netHeat: number;
	efficiency: number;
}

export function arcEnergy(s: WeldSettings): ArcEnergy {
	const meanAmps = meanCurrent(s);
	const volts = s.volts ?? estimatedVolts(meanAmps);
	const energy = (volts * meanAmps) / s.speedMmPerS;
	const efficiency = THERMAL_EFFICIENCY[s.process];
	return { meanAmps, volts, voltsEstimated: s.volts === undefined, arcEnergy: energy, netHeat: efficiency * energy, efficiency };
}
